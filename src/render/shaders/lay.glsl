// How a layer's pictures come to lie on the ground; cover/lay.h does the same on the processor.
//
// A processor runs both sides of every branch and every loop at least once, so what only some layers need is compiled
// in for the patches that hold such layers: PIECES (broken tiling), SECOND (a second scale), and see ground.frag.
uniform sampler2DArray colours;  // square root of the linear colour, height
uniform sampler2DArray reliefs;  // xy tilt, roughness, occlusion
uniform sampler2DArray shines;   // specular, metalness
uniform sampler2D wander;        // slow patches, 0.5 is none
uniform vec4 layerLook[16];      // 1 / tile size, blend, mean height, 1 when steep ground is seen from three sides
uniform vec4 layerPlace[16];     // cosine and sine of the turn, offset in metres
uniform vec4 layerMean[16];      // mean of the colours as stored
uniform vec4 reliefMean[16];     // mean of the reliefs as stored
uniform vec4 layerTint[16];      // factor of the linear colour; factor of the relief
uniform vec4 layerFar[16];       // 1 / how many times larger the second scale is, metres where it begins, variation, wash
uniform uvec4 layerBits;         // by layer: broken tiling, second scale, shine, a pair that meets in its own way

// Where a corner of the lattice of pieces takes its piece from (hashPoint of base/noise.h).
vec2 pieceAt(ivec2 p) {
    uint h = 29u * 0x9e3779b9u ^ uint(p.x) * 0x85ebca6bu ^ uint(p.y) * 0xc2b2ae35u;
    h ^= h >> 16u; h *= 0x85ebca6bu; h ^= h >> 13u; h *= 0xc2b2ae35u; h ^= h >> 16u;
    return vec2(float(h & 0xffffu), float(h >> 16u)) / 65536.0;
}

// One way of looking at the plane of a layer: where, and how fast that changes over the picture.
struct Sight { vec2 uv, dx, dy; };

// Looks at a plane, given in metres with how that changes over the picture.
Sight sightOf(vec2 plane, vec2 dx, vec2 dy, uint id, float times) {
    vec4 place = layerPlace[id];
    float scale = layerLook[id].x * times;
    mat2 turned = mat2(place.x, -place.y, place.y, place.x) * scale;
    return Sight(turned * (plane - place.zw), turned * dx, turned * dy);
}

// A picture at a sight: as it repeats, or where the layer is broken as three pieces of it on a lattice of triangles.
vec4 seen(sampler2DArray pictures, Sight s, uint id, vec4 mean) {
#ifdef PIECES
    float whole = float(1u - (layerBits.x >> id & 1u)), page = float(id);
    vec2 skewed = 2.0 * vec2(s.uv.x - 0.57735027 * s.uv.y, 1.15470054 * s.uv.y);
    vec2 base = floor(skewed), f = skewed - base;
    float rest = 1.0 - f.x - f.y, up = step(rest, 0.0);
    ivec2 b = ivec2(base);
    int over = int(up);
    vec3 w = mix(vec3(rest, f), vec3(-rest, vec2(1.0) - f), up);
    w = w * w * w;
    // A layer that is not broken has one piece, from where it would be.
    w = mix(w / (w.x + w.y + w.z), vec3(1.0, 0.0, 0.0), whole);
    vec2 first = pieceAt(b + ivec2(over)) * (1.0 - whole);
    vec4 t = w.x * textureGrad(pictures, vec3(s.uv + first, page), s.dx, s.dy)
           + w.y * textureGrad(pictures, vec3(s.uv + pieceAt(b + ivec2(1 - over, over)), page), s.dx, s.dy)
           + w.z * textureGrad(pictures, vec3(s.uv + pieceAt(b + ivec2(over, 1 - over)), page), s.dx, s.dy);
    return clamp((t - mean) / length(w) + mean, 0.0, 1.0);
#else
    return textureGrad(pictures, vec3(s.uv, float(id)), s.dx, s.dy);
#endif
}

#ifdef SECOND
float farShare(uint id, float away) { return float(layerBits.y >> id & 1u) * smoothstep(1.0, 2.0, away / layerFar[id].y); }
#endif

// A layer's colour on a plane, with its second scale.
vec4 laidColour(vec2 plane, vec2 dx, vec2 dy, uint id, float away) {
    vec4 t = seen(colours, sightOf(plane, dx, dy, id, 1.0), id, layerMean[id]);
#ifdef SECOND
    t = mix(t, seen(colours, sightOf(plane, dx, dy, id, layerFar[id].x), id, layerMean[id]), farShare(id, away));
#endif
    return t;
}

// A layer's relief on a plane: the slope along the plane's own axes, roughness, occlusion.
vec4 laidRelief(vec2 plane, vec2 dx, vec2 dy, uint id, float away) {
    vec4 r = seen(reliefs, sightOf(plane, dx, dy, id, 1.0), id, reliefMean[id]);
#ifdef SECOND
    r = mix(r, seen(reliefs, sightOf(plane, dx, dy, id, layerFar[id].x), id, reliefMean[id]), farShare(id, away));
#endif
    vec2 b = (r.xy * 2.0 - 1.0) * layerTint[id].w;
    vec2 turn = layerPlace[id].xy;
    return vec4(b.x * turn - b.y * vec2(-turn.y, turn.x), r.zw);
}

// Slow wandering over the ground, about -1 to 1.
float wanderAt(vec2 p) {
    float near = textureLod(wander, (vec2(0.27 * p.x + 0.05 * p.y, 0.27 * p.y - 0.05 * p.x) + 0.5) / 128.0, 0.0).r;
    float wide = textureLod(wander, (vec2(0.07 * p.x - 0.02 * p.y, 0.07 * p.y + 0.02 * p.x) + 0.5) / 128.0, 0.0).r;
    return 0.55 * (near * 2.0 - 1.0) + 0.45 * (wide * 2.0 - 1.0);
}
