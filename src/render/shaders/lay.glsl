// How a layer's pictures come to lie on the ground; cover/lay.h does the same on the processor.
//
// A processor runs both sides of every branch and every loop at least once, so what only some layers need is compiled
// in for the patches that hold such layers: PIECES (broken tiling), SECOND (a second scale), and see ground.frag. Within
// them loops run as often as the pixels at hand need: look-ups are most of what a pixel takes.
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

// What a layer's pictures show at a place: colour and height; slope along the plane's own axes, roughness, occlusion.
struct Laid { vec4 colour, relief; };

#ifdef PIECES
// Three pieces of the pictures on a lattice of triangles, or for a layer that is not broken one, from where it would be.
struct Pieces { ivec2 base; int over; vec3 shares; uint count; };

Pieces piecesAt(vec2 uv, uint id) {
    vec2 skewed = 2.0 * vec2(uv.x - 0.57735027 * uv.y, 1.15470054 * uv.y);
    vec2 base = floor(skewed), f = skewed - base;
    float rest = 1.0 - f.x - f.y, up = step(rest, 0.0);
    vec3 w = mix(vec3(rest, f), vec3(-rest, vec2(1.0) - f), up);
    w = w * w * w;
    bool broken = (layerBits.x >> id & 1u) != 0u;
    return Pieces(ivec2(base), int(up), broken ? w / (w.x + w.y + w.z) : vec3(1.0, 0.0, 0.0), broken ? 3u : 1u);
}
vec2 fromOf(Pieces p, uint k) {
    if (p.count == 1u) return vec2(0.0);
    return pieceAt(p.base + (k == 0u ? ivec2(p.over) : k == 1u ? ivec2(1 - p.over, p.over) : ivec2(p.over, 1 - p.over)));
}
float shareOf(Pieces p, uint k) { return k == 0u ? p.shares.x : k == 1u ? p.shares.y : p.shares.z; }
// Of a sum of pieces, the contrast that each of them has.
vec4 contrasted(vec4 sum, vec4 mean, Pieces p) { return clamp((sum - mean) / length(p.shares) + mean, 0.0, 1.0); }
#endif

// The pictures as they repeat, or in pieces.
Laid seen(vec2 uv, vec2 dx, vec2 dy, uint id) {
    float page = float(id);
#ifdef PIECES
    Laid all = Laid(vec4(0.0), vec4(0.0));
    Pieces pieces = piecesAt(uv, id);
    for (uint k = 0u; k < pieces.count; ++k) {
        vec3 at = vec3(uv + fromOf(pieces, k), page);
        float share = shareOf(pieces, k);
        all.colour += share * textureGrad(colours, at, dx, dy);
#ifdef RELIEF
        all.relief += share * textureGrad(reliefs, at, dx, dy);
#endif
    }
    all.colour = contrasted(all.colour, layerMean[id], pieces);
#ifdef RELIEF
    all.relief = contrasted(all.relief, reliefMean[id], pieces);
#endif
    return all;
#elif defined(RELIEF)
    return Laid(textureGrad(colours, vec3(uv, page), dx, dy), textureGrad(reliefs, vec3(uv, page), dx, dy));
#else
    return Laid(textureGrad(colours, vec3(uv, page), dx, dy), vec4(0.0));
#endif
}

// How finely pictures are read: `dx` and `dy` are how a place on them changes over a pixel, whose shape on the ground is
// long and narrow where one looks along it. A picture that stands alone is read as its longer side asks for, or it would
// sparkle; those that are averaged more as the shorter one does, or it would be a smear.
void fineness(inout vec2 dx, inout vec2 dy) {
    float a = dot(dx, dx), b = dot(dy, dy), times = max(reading.x, 1.0);
    float side = sqrt(max(min(a, b), max(a, b) / (times * times))) * reading.y;
    float given = step(0.5, reading.x);
    dx = mix(dx, vec2(side, 0.0), given), dy = mix(dy, vec2(0.0, side), given);
}

// From metres on a plane to repeats of a layer's pictures.
mat2 turnOf(uint id) {
    vec4 place = layerPlace[id];
    return mat2(place.x, -place.y, place.y, place.x) * layerLook[id].x;
}

// A layer on a plane, which is given in metres with how that changes over the picture: with its second scale.
Laid laid(vec2 plane, vec2 dx, vec2 dy, uint id, float away) {
    mat2 turned = turnOf(id);
    vec2 uv = turned * (plane - layerPlace[id].zw);
    dx = turned * dx, dy = turned * dy;
    fineness(dx, dy);
#ifdef SECOND
    Laid all = Laid(vec4(0.0), vec4(0.0));
    float far = float(layerBits.y >> id & 1u) * farShare(away / layerFar[id].y);
    uint last = far > 0.0 ? 1u : 0u;
    for (uint k = far < 1.0 ? 0u : 1u; k <= last; ++k) {
        float times = k == 0u ? 1.0 : layerFar[id].x, share = k == 0u ? 1.0 - far : far;
        Laid one = seen(uv * times, dx * times, dy * times, id);
        all.colour += share * one.colour;
        all.relief += share * one.relief;
    }
#else
    Laid all = seen(uv, dx, dy, id);
#endif
#ifdef RELIEF
    vec2 b = (all.relief.xy * 2.0 - 1.0) * layerTint[id].w, turn = layerPlace[id].xy;
    all.relief.xy = b.x * turn - b.y * vec2(-turn.y, turn.x);
#endif
    return all;
}

#ifdef EXTRA
// Specular and metalness on the plane that is seen from above: few layers shine, the others mirror 4 % of the light.
vec2 shineAt(vec2 plane, vec2 dx, vec2 dy, uint id) {
    mat2 turned = turnOf(id);
    vec2 uv = turned * (plane - layerPlace[id].zw);
    dx = turned * dx, dy = turned * dy;
    fineness(dx, dy);
#ifdef PIECES
    vec4 shine = vec4(0.0);
    Pieces pieces = piecesAt(uv, id);
    for (uint k = 0u; k < pieces.count; ++k)
        shine += shareOf(pieces, k) * textureGrad(shines, vec3(uv + fromOf(pieces, k), float(id)), dx, dy);
#else
    vec4 shine = textureGrad(shines, vec3(uv, float(id)), dx, dy);
#endif
    return mix(vec2(0.5, 0.0), shine.xy, float(layerBits.z >> id & 1u));
}
#endif

// Slow wandering over the ground, about -1 to 1.
float wanderAt(vec2 p) {
    float near = textureLod(wander, (vec2(0.27 * p.x + 0.05 * p.y, 0.27 * p.y - 0.05 * p.x) + 0.5) / 128.0, 0.0).r;
    float wide = textureLod(wander, (vec2(0.07 * p.x - 0.02 * p.y, 0.07 * p.y + 0.02 * p.x) + 0.5) / 128.0, 0.0).r;
    return 0.55 * (near * 2.0 - 1.0) + 0.45 * (wide * 2.0 - 1.0);
}
