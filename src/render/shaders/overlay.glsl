// What is computed about the ground and shown on it; overlayColour() in overlay_colours.cpp gives the same colours to the legends.
uniform vec3 place;          // origin x, origin z, spacing
uniform int overlay;         // 0 none, 1 steepness, 2 altitude, 3 curvature, 4 coverage of one layer, 5 stretch, 7 reach
uniform vec4 overlayScale;   // walkable degrees, metres of a band, lowest and highest ground
uniform float curvatureFull; // change of slope per metre at full colour
uniform vec2 gridLook;       // metres between grid lines or 0, 1 when the mesh shows
uniform vec3 bandColours[6];
uniform sampler2D painted;   // the weight of the layers in question: the one whose coverage shows, or those laid from above alone
uniform float paintedThere;  // 1 when there is such a picture, 0 when none of the layers is in question
uniform vec4 onLitMap;       // it lies as the lit map does

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
    if (overlay == 1) {
        float degrees = degrees(atan(length(vec2(east - west, south - north)) / (2.0 * place.z)));
        float limit = overlayScale.x;
        vec3 passes = mix(vec3(0.45, 0.66, 0.30), vec3(0.95, 0.68, 0.38), smoothstep(0.6 * limit, limit, degrees));
        vec3 steep = mix(vec3(0.60, 0.25, 0.47), vec3(0.22, 0.07, 0.17), smoothstep(limit, 90.0, degrees));
        c = mix(c, light * mix(passes, steep, step(limit, degrees)), 0.72);
    } else if (overlay == 2) {
        float band = floor(world.y / overlayScale.y) * overlayScale.y + 0.5 * overlayScale.y;
        float share = clamp((band - overlayScale.z) / (overlayScale.w - overlayScale.z), 0.0, 1.0) * 5.0;
        int i = min(int(share), 4);
        c = mix(c, light * mix(bandColours[i], bandColours[i + 1], share - float(i)), 0.75);
    } else if (overlay == 3) {
        float here = groundBetween(at);
        float bend = (4.0 * here - west - east - north - south) / (place.z * place.z) / curvatureFull;
        vec3 colour = mix(vec3(0.78, 0.78, 0.76), bend < 0.0 ? vec3(0.25, 0.33, 0.50) : vec3(0.95, 0.68, 0.38), min(abs(bend), 1.0));
        c = mix(c, light * colour, 0.75);
    }
    if (overlay == 5) {
        // survey/stretch.h says what is measured.
        vec2 rise = vec2(east - west, south - north) / (2.0 * place.z);
        float up = inversesqrt(1.0 + dot(rise, rise)), flatShare = paintedThere * texture(painted, at * onLitMap.xy + onLitMap.zw).r;
        vec3 n = vec3(abs(rise.x) * up, up, abs(rise.y) * up);
        float t = mix(dot(n * n, n) / dot(n * n, n * n), 1.0 / up, flatShare) - 1.0;
        vec3 colour = t < 0.5 ? mix(vec3(0.45, 0.66, 0.30), vec3(0.95, 0.68, 0.38), 2.0 * t)
                    : t < 1.0 ? mix(vec3(0.95, 0.68, 0.38), vec3(0.60, 0.25, 0.47), 2.0 * t - 1.0)
                    : mix(vec3(0.60, 0.25, 0.47), vec3(0.22, 0.07, 0.17), min(t - 1.0, 1.0));
        c = mix(c, light * colour, 0.78);
    }
    if (overlay == 4) {
        float t = 3.0 * paintedThere * texture(painted, at * onLitMap.xy + onLitMap.zw).r;
        vec3 heat = t < 1.0 ? mix(vec3(0.13, 0.14, 0.18), vec3(0.60, 0.25, 0.47), t)
                  : t < 2.0 ? mix(vec3(0.60, 0.25, 0.47), vec3(0.95, 0.68, 0.38), t - 1.0) : mix(vec3(0.95, 0.68, 0.38), vec3(0.97, 0.95, 0.92), t - 2.0);
        c = mix(c, light * heat, 0.88);
    }
    if (overlay == 7) {
        // One of five, never mixed: Reached of walk/reach.h.
        ivec2 size = textureSize(painted, 0);
        ivec2 texel = clamp(ivec2((at * onLitMap.xy + onLitMap.zw) * vec2(size)), ivec2(0), size - 1);
        int is = int(paintedThere * texelFetch(painted, texel, 0).r * 5.1 + 0.5);
        vec3 colour = is == 1 ? vec3(0.45, 0.66, 0.30) : is == 2 ? vec3(0.95, 0.68, 0.38)
                    : is == 3 ? vec3(0.75, 0.16, 0.30) : vec3(0.36, 0.36, 0.42);
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
