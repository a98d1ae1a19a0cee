// Where there is no ground: one definition with level/opening.h.
uniform sampler2D gaps;

float gapSample(ivec2 p) {
    ivec2 q = p - gapsAt.xy, near = clamp(q, ivec2(0), gapsAt.zw - 1);
    return q == near ? texelFetch(gaps, near, 0).r : 0.0;
}

bool gone(vec2 at) {
    ivec2 p = clamp(ivec2(floor(at)), ivec2(0), samples - 2);
    vec2 f = at - vec2(p);
    float nw = gapSample(p), ne = gapSample(p + ivec2(1, 0)), sw = gapSample(p + ivec2(0, 1)), se = gapSample(p + ivec2(1, 1));
    float whole = 0.25 * (nw + ne + sw + se);
    float cut = f.x >= f.y ? nw + f.x * (ne - nw) + f.y * (se - ne) : nw + f.y * (sw - nw) + f.x * (se - sw);
    return mix(whole, cut, smoothEdges) >= 0.5;
}
