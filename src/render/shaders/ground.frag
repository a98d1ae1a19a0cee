// The ground. Near patches blend their layers live; beyond `liveMetres`, and with QUICK everywhere, the lit map
// stands in: the mean colours of the layers with light and shade already in it.
in vec3 world;
in vec2 onGround;
in float haze;
flat in uvec4 layers;
out vec4 shown;

uniform sampler2D litMap;      // what is shown, before haze
#ifndef QUICK
uniform sampler2D surface;     // xy east and south of the unit normal, z sun visibility, w openness to the sky
#ifndef OVERLAY
uniform sampler2DArray weights;
#endif
uniform sampler2DArray colours;  // rgb square root of linear colour, a height of the layer
uniform sampler2DArray reliefs;  // xy normal, z roughness
uniform vec4 layerLook[16];      // 1 / tile size, blend, mean height, unused
uniform float liveMetres;
#endif
#ifdef CONTOURS
uniform float contourStep;     // metres
#endif

void main() {
    vec3 c = texture(litMap, onGround).rgb;
#ifndef QUICK
    uint count = layers.z;
    vec3 albedo = vec3(0.0), relief = vec3(0.0);
    float sum = 1e-5, reliefSum = 1e-5;
    // A loop over none costs nothing, where a branch would be run by every pixel on a processor.
    for (uint i = 0u; i < count; ++i) {
        uint id = ((i < 8u ? layers.x : layers.y) >> (4u * (i & 7u))) & 15u;
        float weight = texture(weights, vec3(onGround, float(id >> 2u)))[id & 3u];
        vec2 at = world.xz * layerLook[id].x;
        vec4 t = texture(colours, vec3(at, float(id)));
        // Odds of showing: by coverage, and by how high this layer stands here.
        weight *= exp2(10.0 * layerLook[id].y * (t.a - layerLook[id].z));
        albedo += weight * t.rgb * t.rgb;
        sum += weight;
        for (uint k = 0u; k < layers.w; ++k) {
            relief += weight * texture(reliefs, vec3(at, float(id))).xyz;
            reliefSum += weight;
        }
    }
    for (uint once = 0u; once < min(count, 1u); ++once) {
        float away = distance(world, camera);
        vec4 ground = texture(surface, onGround);
        vec2 slope = ground.xy * 2.0 - 1.0;
        vec3 normal = vec3(slope.x, sqrt(max(1.0 - dot(slope, slope), 0.0)), slope.y);
        float close = (1.0 - smoothstep(0.3, 0.5, away / liveMetres)) * float(layers.w);
        relief = mix(vec3(0.5, 0.5, 0.92), relief / reliefSum, close);
        vec2 bump = relief.xy * 2.0 - 1.0;
        normal = normalize(vec3(normal.x + bump.x, normal.y, normal.z - bump.y));
        vec3 light = lit(albedo / sum, normal, ground.z, ground.w);
        vec3 between = normalize(towardsSun + normalize(camera - world));
        float gloss = 2.0 / (pow(relief.z, 4.0) + 0.02);
        light += sunColour * (ground.z * (1.0 - relief.z) * 0.25 * pow(max(dot(normal, between), 0.0), gloss) * max(dot(normal, towardsSun), 0.0));
        c = mix(finish(light), c, smoothstep(0.6, 1.0, away / liveMetres));
    }
#endif
#ifdef OVERLAY
    c = overlaid(c, world, onGround);
#endif
#ifdef CONTOURS
    float band = world.y / contourStep, wide = max(fwidth(band), 1e-6);
    float line = 1.0 - smoothstep(0.6, 1.4, abs(fract(band - 0.5) - 0.5) / wide);
    float band5 = band / 5.0, wide5 = max(fwidth(band5), 1e-6);
    float line5 = 1.0 - smoothstep(0.9, 1.9, abs(fract(band5 - 0.5) - 0.5) / wide5);
    // Lines closer than a few pixels would turn the ground dark; they fade out instead.
    line *= 1.0 - smoothstep(0.12, 0.3, wide);
    line5 *= 1.0 - smoothstep(0.12, 0.3, wide5);
    c = mix(c, vec3(0.10, 0.07, 0.09), max(0.40 * line, 0.72 * line5));
#endif
    shown = vec4(mix(c, hazeShown, haze), 1.0);
}
