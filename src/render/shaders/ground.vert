// One vertex of a patch of 8 x 8 quads. Odd vertices sink onto the coarser mesh with distance (after Strugar,
// "Continuous Distance-Dependent Level of Detail", 2010), so that levels of detail meet without gaps.
layout(location = 0) in vec2 grid;         // 0..8
layout(location = 1) in vec4 patchPlace;   // first column, first row, samples per quad, metres where morphing ends
layout(location = 2) in uvec4 patchLayers; // layer indices, four bits each: first eight, next eight; their number; rims

uniform sampler2D heights;

out vec3 world;
out vec2 sampleAt;            // column and row of the ground
// Share of the lit map's own grain that shows. Some of it stands in for what a moving picture lacks of the layers; all
// of it comes where the lit map stands in for them at rest, and nearer it would be blotches.
out float farGrain;
out float haze;               // share that distance has faded
flat out uvec4 layers;
#ifdef GRAIN
out float grainShare, grainAway;  // share of the grain that shows, fading with distance; that, in metres
uniform vec3 grainFade;       // GrainFade
#endif

// A patch draws fewer vertices along some of its sides: kept() of patch_mesh.cpp. Two bits a side, from the north.
ivec2 keptOf(ivec2 g) {
    ivec4 less = (ivec4(1) << (ivec4(patchLayers.w) >> ivec4(0, 2, 4, 6) & 3)) - 1;
    if (g.y == 0) g.x &= ~less.x;
    else if (g.y == 8) g.x = (g.x + less.z) & ~less.z;
    if (g.x == 0) g.y &= ~less.w;
    else if (g.x == 8) g.y = (g.y + less.y) & ~less.y;
    return g;
}

float heightAt(ivec2 p) { return texelFetch(heights, clamp(p, ivec2(0), samples - 1), 0).r; }

void main() {
    ivec2 g = patchLayers.w == 0u ? ivec2(grid) : keptOf(ivec2(grid));
    int stride = int(patchPlace.z);
    ivec2 p = min(ivec2(patchPlace.xy) + g * stride, samples - 1);
    world = vec3(place.x + float(p.x) * place.z, heightAt(p), place.y + float(p.y) * place.z);
    float far = patchPlace.w;
    // Not before the finer mesh ends everywhere: a patch that reaches beyond its range has no part in this one's morphing.
    float morph = clamp((distance(world, camera) - 0.85 * far) / (0.15 * far), 0.0, 1.0);
    ivec2 odd = g & 1;
    bool rim = any(equal(g, ivec2(0))) || any(equal(g, ivec2(8)));
    if (morph >= 1.0 && rim && all(lessThan((ivec2(patchPlace.xy) + g * stride) * odd, samples))) {
        // By a coarser mesh it becomes the vertex that both have: on the side between two of them it would lie but for
        // rounding, which leaves a pixel open now and then.
        p -= odd * stride;
        world = vec3(place.x + float(p.x) * place.z, heightAt(p), place.y + float(p.y) * place.z);
    } else if (morph > 0.0 && odd != ivec2(0)) {
        float coarse = 0.5 * (heightAt(p - odd * stride) + heightAt(p + odd * stride));
        world.y = mix(world.y, coarse, morph);
    }
    sampleAt = vec2(p);
    haze = hazeShare(world);
    float away = distance(world, camera);
    farGrain = reading.z * smoothstep(40.0, 120.0, away);
#ifdef GRAIN
    grainAway = away;
    grainShare = grainFade.x - grainFade.x * smoothstep(grainFade.y, grainFade.z, away);
#endif
    layers = patchLayers;
    gl_Position = viewProjection * vec4(world - camera, 1.0);
}
