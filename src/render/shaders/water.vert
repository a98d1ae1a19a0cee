// The surface of water. A pool is drawn tile by tile as flat squares, a STREAM as a strip along its line, and SIDES are
// the cut sides of water that stands at the level's edge, two vertices per border sample.
uniform float surfaces[65]; // metres, by number of the body; 0 is none

uniform vec4 waterColour[65];    // linear; metres of clearness
uniform vec4 waterWaves[65];     // metres from trough to crest, from crest to crest, roughness, foam's metres

out vec3 world;
out vec2 sampleAt;
out float haze;
// The same all over a body, and looked up here instead of at every pixel.
flat out vec4 waves4;
flat out vec3 ownLight;      // of deep water
flat out vec3 foamShown;
flat out float clearness;    // metres
#ifdef STREAM
layout(location = 0) in vec3 at;
layout(location = 1) in vec4 line;   // metres along it and aside, metres that it falls each metre, number of the body
out vec4 run;
flat out int body;
#elif defined(SIDES)
uniform int side;       // 0 north, 1 east, 2 south, 3 west
uniform int stride;
uniform sampler2D heights, waters;
uniform ivec4 held;     // the first sample that `waters` holds, and how many
out float under;        // metres below the surface
flat out int body;
int bodyAt(ivec2 p) {
    ivec2 t = p - held.xy;
    if (any(lessThan(t, ivec2(0))) || any(greaterThanEqual(t, held.zw))) return 0;
    return int(texelFetch(waters, t, 0).r * 255.0 + 0.5);
}
#else
layout(location = 0) in vec4 tile;   // first column and row, cells a side, number of the body
flat out int body;
#endif

void main() {
#ifdef STREAM
    world = at;
    sampleAt = (at.xz - place.xy) / place.z;
    run = line;
    body = int(line.w + 0.5);
#elif defined(SIDES)
    int last = (side & 1) == 0 ? samples.x - 1 : samples.y - 1;
    int along = min((gl_VertexID >> 1) * stride, last);
    ivec2 p = side == 0 ? ivec2(along, 0) : side == 1 ? ivec2(samples.x - 1, along)
            : side == 2 ? ivec2(along, samples.y - 1) : ivec2(0, along);
    ivec2 step = (side & 1) == 0 ? ivec2(stride, 0) : ivec2(0, stride);
    body = max(bodyAt(p), max(bodyAt(p - step), bodyAt(p + step)));
    float ground = texelFetch(heights, p, 0).r;
    float top = body > 0 ? max(surfaces[body], ground) : ground;
    bool low = (gl_VertexID & 1) == 1;
    under = low ? top - ground : 0.0;
    sampleAt = vec2(p);
    world = vec3(place.x + float(p.x) * place.z, low ? ground : top, place.y + float(p.y) * place.z);
#else
    vec2 corner = vec2(float(gl_VertexID & 1), float(gl_VertexID >> 1 & 1));
    body = int(tile.w + 0.5);
    sampleAt = min(tile.xy + corner * tile.z, vec2(samples - 1));
    world = vec3(place.x + sampleAt.x * place.z, surfaces[body], place.y + sampleAt.y * place.z);
#endif
    haze = hazeShare(world);
    waves4 = waterWaves[body];
    clearness = waterColour[body].w;
    ownLight = lit(waterColour[body].rgb, vec3(0.0, 1.0, 0.0), 0.7, 1.0);
    foamShown = finish(lit(vec3(0.80, 0.84, 0.84), vec3(0.0, 1.0, 0.0), 0.9, 1.0));
    // A little nearer than it lies, along the same ray: the mesh of the ground is coarser far away and would stand out of
    // narrow beds. Where ground rises above the surface is found out by its samples, and not by depth.
#ifdef STREAM
    const float nearer = 0.012;
#elif defined(SIDES)
    const float nearer = 0.0;
#else
    const float nearer = 0.003;
#endif
    gl_Position = viewProjection * vec4((world - camera) * (1.0 - nearer), 1.0);
}
