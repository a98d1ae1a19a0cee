// What is seen of water: the sky and the sun in its waves, its own colour by how far one looks into it, and foam where
// it is shallow or falls. What lies below is in the picture already and is blended with. DEPTH shows metres as colours
// instead; QUICK is for moving pictures; BELOW is seen by who dives.
in vec3 world;
in vec2 sampleAt;
in float haze;
flat in int body;
out vec4 shown;   // times its alpha

uniform sampler2D waters;        // number of the body over each sample, 0 where it is dry
uniform ivec4 held;              // the first sample that it holds, and how many
uniform float surfaces[65];      // metres
flat in vec4 waves4;
flat in vec3 ownLight, foamShown;
flat in float clearness;
#ifdef DEPTH
uniform vec2 depthScale;         // deepest metres, metres from line to line
#endif

int bodyAt(ivec2 p) {
    ivec2 t = p - held.xy;
    if (any(lessThan(t, ivec2(0))) || any(greaterThanEqual(t, held.zw))) return 0;
    return int(texelFetch(waters, t, 0).r * 255.0 + 0.5);
}

#ifdef STREAM
in vec4 run;
#endif
#ifdef SIDES
in float under;
#endif

// Ground below the surface is this water's when any corner of its triangle is: those are joined (grid/bits.h).
bool here() {
    ivec2 p = clamp(ivec2(floor(sampleAt)), ivec2(0), samples - 2);
    vec2 f = sampleAt - vec2(p);
    int a = bodyAt(p), b = bodyAt(p + ivec2(1, 1)), c = bodyAt(p + (f.x >= f.y ? ivec2(1, 0) : ivec2(0, 1)));
#ifdef STREAM
    // Where a pool stands as high, it is the pool's.
    if (max(surfaces[a], max(surfaces[b], surfaces[c])) >= world.y - 0.02) return false;
#endif
    return a == body || b == body || c == body;
}

// The slope of waves: a few that run in different directions, the longest as long as told. `near` takes away those too
// small to be seen.
vec2 waves(vec2 at, float height, float wavelength, float pixel, int count) {
    vec2 slope = vec2(0.0);
    float amplitude = 0.22 * height, k = 6.2831853 / wavelength;
    vec2 way = vec2(0.83, 0.56);
    for (int i = 0; i < count; ++i) {
        float shows = 1.0 - smoothstep(0.3, 1.2, pixel * k);
        float phase = dot(way, at) * k + time * sqrt(9.81 * k) + 1.7 * float(i);
        // Waves come in groups, so that no pattern shows.
        float group = 0.6 + 0.4 * sin(dot(vec2(-way.y, way.x), at) * k * 0.23 + 2.1 * float(i));
        slope += way * (amplitude * k * cos(phase) * group * shows);
        way = vec2(way.x * -0.42 - way.y * 0.907, way.x * 0.907 + way.y * -0.42);
        k *= 1.73;
        amplitude *= 0.52;
    }
    return slope;
}

void main() {
#ifdef SIDES
    if (body == 0 || under <= 0.0) discard;
    vec3 water = finish(0.95 * ownLight);
    float thick = 1.0 - exp(-2.2 * under / clearness);
    float alpha = 0.55 + 0.4 * thick;
    shown = vec4(mix(water * (1.1 - 0.35 * thick), hazeShown, haze) * alpha, alpha);
#else
    if (!here()) discard;
    float depth = world.y - surfaceBetween(sampleAt);
    if (depth <= 0.0) discard;
#ifdef DEPTH
    float share = clamp(depth / depthScale.x, 0.0, 1.0);
    vec3 c = mix(kShallow, kWaist, smoothstep(0.0, 0.4, share));
    c = mix(c, kDeep, smoothstep(0.35, 1.0, share));
    float band = depth / depthScale.y, wide = max(fwidth(band), 1e-6);
    float line = 1.0 - smoothstep(0.6, 1.4, abs(fract(band - 0.5) - 0.5) / wide);
    c = mix(c, vec3(0.04, 0.07, 0.14), 0.7 * line * (1.0 - smoothstep(0.15, 0.4, wide)));
    shown = vec4(mix(c, hazeShown, haze), 1.0);
#else
    vec3 towards = camera - world;
    float away = length(towards);
    towards /= away;
    vec4 w = waves4;
#ifdef QUICK
    const int count = 2, few = 1;
#else
    const int count = 5, few = 3;
#endif
#ifdef STREAM
    float steep = run.z;
    vec2 at = vec2(run.x - time * (0.4 + 2.0 * sqrt(steep)), run.y);
#else
    const float steep = 0.0;
    vec2 at = world.xz;
#endif
    float pixel = away * 0.0016 / max(abs(towards.y), 0.15);
    vec2 slope = waves(at, w.x, w.y, pixel, count) * smoothstep(0.0, 0.5, depth);
#ifdef STREAM
    slope += waves(at.yx * vec2(2.0, 0.35), 0.03 + 0.10 * min(steep, 1.0), 0.9, pixel, few);
#endif
    vec3 normal = normalize(vec3(-slope.x, 1.0, -slope.y));
#ifdef BELOW
    // All of the sky stands in a round window overhead, whose edge the waves move; beyond it the surface mirrors the water.
    vec3 air = refract(-towards, -normal, 1.333);
    float rises = clamp(dot(air, normal), 0.0, 1.0), flat_ = 1.0 - rises, flat2 = flat_ * flat_;
    float out_ = dot(air, air) > 0.0 ? 0.98 * (1.0 - flat2 * flat2 * flat_) : 0.0;
    vec3 sky = mix(airHaze, airZenith, clamp(air.y, 0.0, 1.0)) +
               sunColour * (0.6 * pow(max(dot(air, towardsSun), 0.0), 40.0));
    vec3 c = finish(mix(0.85 * hazeColour, sky, out_));
    // The squares that a pool is drawn as are far larger than one sees in water.
    shown = vec4(mix(c, hazeShown, hazeShare(world)), 1.0);
#else
    float facing = abs(dot(normal, towards));
    float grazing = 1.0 - facing, grazing2 = grazing * grazing;
    float mirrors = 0.02 + 0.98 * grazing2 * grazing2 * grazing * (1.0 - 0.5 * w.z);
    vec3 out_ = reflect(-towards, normal);
    out_.y = abs(out_.y);
    vec3 sky = skyTowards(out_, zenithColour);
    float sharp = mix(900.0, 30.0, w.z);
    float glint = pow(max(dot(out_, towardsSun), 0.0), sharp) * (1.0 - 0.8 * w.z);
    // How far light from the bed comes through the water: longer when one looks along it, bent as it is.
    float through = depth / sqrt(1.0 - (1.0 - facing * facing) / 1.78);
    float clear = exp(-1.1 * through / clearness);
    // A film of water shows nothing, so that it meets the ground softly.
    float film = smoothstep(0.0, 0.07, depth);
    mirrors *= film;
    float below = clear * (1.0 - mirrors);
    vec3 light = ownLight * (1.0 - clear) * (1.0 - mirrors) + sky * mirrors;
    float alpha = 1.0 - below;
    vec3 c = finish(light / max(alpha, 1e-3)) + glint * film * sunColour * 0.35;
#ifndef QUICK
    // Foam: in patches along the shore, in streaks where it falls.
    float shore = w.w > 0.0 ? 1.0 - smoothstep(0.15 * w.w, w.w, depth) : 0.0;
    vec2 lace = waves(world.xz * 1.3 + 0.2 * time, 1.0, 1.1, pixel, few);
    float foam = shore * smoothstep(0.5, 1.7, abs(lace.x) + abs(lace.y)) * 0.65;
#else
    float foam = w.w > 0.0 ? 0.18 * (1.0 - smoothstep(0.15 * w.w, w.w, depth)) : 0.0;
#endif
#ifdef STREAM
    float streaks = 0.5 + 0.5 * sin(run.y * 9.0 + 2.0 * sin(at.x * 1.3)) * cos(run.y * 4.1 + at.x * 0.7);
    foam = max(foam, smoothstep(0.25, 0.9, steep) * mix(0.55, 0.95, streaks));
#endif
    foam *= film;
    c = mix(c, foamShown, foam);
    alpha = max(alpha, foam);
    shown = vec4(mix(c, hazeShown, haze) * alpha, alpha);
#endif
#endif
#endif
}
