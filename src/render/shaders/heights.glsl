// The ground's height at any place, from its own samples and not from the mesh, which is coarser far away.
uniform sampler2D heights;

float groundAt(ivec2 p) { return texelFetch(heights, clamp(p, ivec2(0), samples - 1), 0).r; }

// On the triangles that are drawn (altitudeAt, level/ground.h).
float surfaceBetween(vec2 at) {
    ivec2 p = clamp(ivec2(floor(at)), ivec2(0), samples - 2);
    vec2 f = at - vec2(p);
    float nw = groundAt(p), se = groundAt(p + ivec2(1, 1));
    if (f.x >= f.y) {
        float ne = groundAt(p + ivec2(1, 0));
        return nw + f.x * (ne - nw) + f.y * (se - ne);
    }
    float sw = groundAt(p + ivec2(0, 1));
    return nw + f.y * (sw - nw) + f.x * (se - sw);
}

float groundBetween(vec2 at) {
    ivec2 p = ivec2(floor(at));
    vec2 f = at - floor(at);
    return mix(mix(groundAt(p), groundAt(p + ivec2(1, 0)), f.x), mix(groundAt(p + ivec2(0, 1)), groundAt(p + ivec2(1, 1)), f.x), f.y);
}
