// What is computed about the ground and shown on it; its colours are constants of overlay_colours.cpp, which
// gives the same to the legends.
uniform int overlay;         // one of the constants
uniform vec4 overlayScale;   // walkable degrees, metres of a band, lowest and highest ground
uniform float curvatureFull; // change of slope per metre at full colour
uniform vec2 gridLook;       // metres between grid lines or 0, 1 when the mesh shows
uniform sampler2D painted;   // the weight of the layers in question: the one whose coverage shows, or those laid from above alone
uniform float paintedThere;  // 1 when there is such a picture, 0 when none of the layers is in question

// How strongly a line at whole numbers of `v` shows, about two pixels wide; lines too close to tell apart fade out.
float lineAt(float v, float pixels) {
    float wide = max(fwidth(v), 1e-7);
    float line = 1.0 - smoothstep(0.5 * pixels, 0.5 * pixels + 1.0, abs(fract(v - 0.5) - 0.5) / wide);
    return line * (1.0 - smoothstep(0.15, 0.4, wide));
}

vec3 overlaid(vec3 c, vec3 world, vec2 at) {
    float west = groundBetween(at - vec2(1.0, 0.0)), east = groundBetween(at + vec2(1.0, 0.0));
    float north = groundBetween(at - vec2(0.0, 1.0)), south = groundBetween(at + vec2(0.0, 1.0));
    float light = 0.55 + 0.75 * dot(c, vec3(0.3, 0.5, 0.2));   // relief stays visible below the colours
    if (overlay == kOverlaySteepness) {
        float degrees = degrees(atan(length(vec2(east - west, south - north)) / (2.0 * place.z)));
        float limit = overlayScale.x;
        vec3 passes = mix(kPasses, kNearly, smoothstep(0.6 * limit, limit, degrees));
        vec3 steep = mix(kSteep, kSheer, smoothstep(limit, 90.0, degrees));
        c = mix(c, light * mix(passes, steep, step(limit, degrees)), 0.72);
    } else if (overlay == kOverlayAltitude) {
        float band = floor(world.y / overlayScale.y) * overlayScale.y + 0.5 * overlayScale.y;
        float share = clamp((band - overlayScale.z) / (overlayScale.w - overlayScale.z), 0.0, 1.0) * float(kBands - 1);
        int i = min(int(share), kBands - 2);
        c = mix(c, light * mix(kBandColours[i], kBandColours[i + 1], share - float(i)), 0.75);
    } else if (overlay == kOverlayCurvature) {
        float here = groundBetween(at);
        float bend = (4.0 * here - west - east - north - south) / (place.z * place.z) / curvatureFull;
        vec3 colour = mix(kFlat, bend < 0.0 ? kHollow : kCrest, min(abs(bend), 1.0));
        c = mix(c, light * colour, 0.75);
    }
    if (overlay == kOverlayStretch) {
        // survey/stretch.h says what is measured.
        vec2 rise = vec2(east - west, south - north) / (2.0 * place.z);
        float up = inversesqrt(1.0 + dot(rise, rise)), flatShare = paintedThere * texture(painted, at * onLitMap.xy + onLitMap.zw).r;
        vec3 n = vec3(abs(rise.x) * up, up, abs(rise.y) * up);
        float t = mix(dot(n * n, n) / dot(n * n, n * n), 1.0 / up, flatShare) - 1.0;
        vec3 colour = t < 0.5 ? mix(kPasses, kNearly, 2.0 * t)
                    : t < 1.0 ? mix(kNearly, kSteep, 2.0 * t - 1.0)
                    : mix(kSteep, kSheer, min(t - 1.0, 1.0));
        c = mix(c, light * colour, 0.78);
    }
    if (overlay == kOverlayCoverage) {
        float t = 3.0 * paintedThere * texture(painted, at * onLitMap.xy + onLitMap.zw).r;
        vec3 heat = t < 1.0 ? mix(kBare, kSome, t)
                  : t < 2.0 ? mix(kSome, kMuch, t - 1.0) : mix(kMuch, kAll, t - 2.0);
        c = mix(c, light * heat, 0.88);
    }
    if (overlay == kOverlayReach) {
        // One of five, never mixed: Reached of walk/reach.h.
        ivec2 size = textureSize(painted, 0);
        ivec2 texel = clamp(ivec2((at * onLitMap.xy + onLitMap.zw) * vec2(size)), ivec2(0), size - 1);
        int is = int(paintedThere * texelFetch(painted, texel, 0).r * 5.1 + 0.5);
        vec3 colour = kReached[clamp(is - 1, 0, 3)];
        if (is > 0) c = mix(c, light * colour, is == 1 ? 0.6 : 0.75);
    }
    if (gridLook.x > 0.0) {
        vec2 g = world.xz / gridLook.x;
        float fine = max(lineAt(g.x, 1.0), lineAt(g.y, 1.0)), strong = max(lineAt(g.x / 10.0, 2.0), lineAt(g.y / 10.0, 2.0));
        c = mix(c, vec3(0.97, 0.95, 0.92), max(0.35 * fine, 0.7 * strong));
    }
    if (gridLook.y > 0.0) {
        float sides = max(lineAt(at.x, 0.8), lineAt(at.y, 0.8)), slant = lineAt(at.x - at.y, 0.8);
        c = mix(c, vec3(0.10, 0.08, 0.10), max(0.55 * sides, 0.35 * slant));
    }
    return c;
}
