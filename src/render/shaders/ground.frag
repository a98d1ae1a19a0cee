// The ground. Near patches (LIVE) blend their layers; beyond `liveMetres` the lit map stands in: the mean colours of the
// layers with light and shade already in it, and GRAIN lays the picture of the leading layer over it. RELIEF adds normal
// maps, SIDES three-sided projection, SECOND a second scale of what is laid; EXTRA is what few layers have: shine, blends
// of their own between pairs, wandering brightness, and painted colour; with GRAIN, pictures that are turned or shifted.
in vec3 world;
in vec2 sampleAt;
in float farGrain;
in float haze;
flat in uvec4 layers;
out vec4 shown;

uniform sampler2D litMap;      // what is shown, before haze; its grain from afar
vec2 placed(vec4 on) { return sampleAt * on.xy + on.zw; }
#ifdef LIVE
uniform sampler2D surface;     // xy east and south of the unit normal, z sun visibility, w openness to the sky
uniform sampler2DArray weights;
uniform sampler2D wash;          // painted colour: square root of the linear colour times its strength; strength
uniform float pairBlend[256];    // how sharply layer i stands out against layer k, at 16 i + k
uniform float liveMetres;
#endif
#ifdef GRAIN
uniform sampler2D leading;     // the layer that weighs most
uniform sampler2DArray grains; // brightness of its pictures, a half for their mean light; of one level of detail
uniform vec4 layerPlace[16];   // as in lay.glsl
uniform vec3 layerGrain[16];   // repeats a metre; of its second scale; metres where that begins
#ifdef SIDES
uniform uint laidFlat;         // bits: layers that are seen from above on steep ground, too
#endif
in float grainShare, grainAway;
#endif
#ifdef CONTOURS
uniform float contourStep;     // metres
#endif

#ifdef LIVE
// Indices of layers, four bits each: first eight, next eight; their number.
uint layerAt(uvec3 some, uint i) { return ((i < 8u ? some.x : some.y) >> (4u * (i & 7u))) & 15u; }

float weightOf(uint id) { return texture(weights, vec3(placed(onCover), float(id >> 2u)))[id & 3u]; }

// Of the patch's layers those that lie here: a patch has many, a pixel few, and each takes many look-ups.
uvec3 layersHere() {
    uvec3 here = uvec3(0u);
    for (uint i = 0u; i < layers.z; ++i) {
        uint id = layerAt(layers.xyz, i);
        if (weightOf(id) > 0.0) {
            uint bits = id << (4u * (here.z & 7u));
            here += here.z < 8u ? uvec3(bits, 0u, 1u) : uvec3(0u, bits, 1u);
        }
    }
    return here;
}

#ifdef EXTRA
// How sharply a layer stands out: what is set for the pairs it meets here, by their weights.
float sharpnessOf(uint id, uvec3 here) {
    float met = 0.0, total = 1e-4;
    for (uint j = 0u; j < here.z; ++j) {
        uint other = layerAt(here, j);
        float there = other == id ? 0.0 : weightOf(other);
        met += there * pairBlend[16u * id + other];
        total += there;
    }
    return mix(layerLook[id].y, met / total, min(total * 100.0, 1.0));
}
#endif

vec3 blended(vec3 behind) {
    float away = distance(world, camera);
    vec4 ground = texture(surface, placed(onNear));
    vec2 slope = ground.xy * 2.0 - 1.0;
    vec3 normal = vec3(slope.x, sqrt(max(1.0 - dot(slope, slope), 0.0)), slope.y);
    vec3 acrossX = dFdx(world), acrossY = dFdy(world);
#ifdef SIDES
    // How much is seen from above, from the east and from the south; less than a fiftieth is nothing.
    vec3 faces = normal.yxz * normal.yxz;
    faces *= faces;
    faces = max(faces / (faces.x + faces.y + faces.z) - 0.02, 0.0);
    faces /= faces.x + faces.y + faces.z;
#endif
#ifdef EXTRA
    float wandered = wanderAt(world.xz), metal = 0.0;
    vec4 washed = texture(wash, placed(onNear));
    vec3 washColour = washed.rgb / max(washed.a, 1e-4), mirrored = vec3(0.0);
    washColour *= washColour;
#endif
    vec3 albedo = vec3(0.0), tilt = vec3(0.0);
    float rough = 0.0, open = 0.0, sum = 1e-5;
    uvec3 here = layersHere();
    for (uint i = 0u; i < here.z; ++i) {
        uint id = layerAt(here, i);
        float weight = weightOf(id), sharp = layerLook[id].y;
#ifdef SIDES
        vec3 look = mix(vec3(1.0, 0.0, 0.0), faces, layerLook[id].w), lean = vec3(0.0);
        vec4 t = vec4(0.0), r = vec4(0.0);
        // The sides that show, in bits, are taken one after the other.
        uint sides = (look.x > 0.0 ? 1u : 0u) | (look.y > 0.0 ? 2u : 0u) | (look.z > 0.0 ? 4u : 0u);
        for (; sides != 0u; sides &= sides - 1u) {
            bool above = (sides & 1u) != 0u, east = !above && (sides & 2u) != 0u;
            float share = above ? look.x : east ? look.y : look.z;
            vec2 plane = above ? world.xz : east ? vec2(world.z, -world.y) : vec2(world.x, -world.y);
            vec2 planeX = above ? acrossX.xz : east ? vec2(acrossX.z, -acrossX.y) : vec2(acrossX.x, -acrossX.y);
            vec2 planeY = above ? acrossY.xz : east ? vec2(acrossY.z, -acrossY.y) : vec2(acrossY.x, -acrossY.y);
            Laid one = laid(plane, planeX, planeY, id, away);
            t += share * one.colour;
            r += share * one.relief;
            vec2 slope = one.relief.xy;
            lean += share * (above ? vec3(slope.x, 0.0, slope.y) : east ? vec3(0.0, -slope.y, slope.x) : vec3(slope.x, -slope.y, 0.0));
        }
#else
        Laid one = laid(world.xz, acrossX.xz, acrossY.xz, id, away);
        vec4 t = one.colour, r = one.relief;
        vec3 lean = vec3(r.x, 0.0, r.y);
#endif
        vec3 shows = t.rgb * t.rgb * layerTint[id].rgb;
#ifdef EXTRA
        sharp = sharpnessOf(id, here);
        shows *= 1.0 + vec3(1.15, 1.0, 0.6) * (layerFar[id].z * wandered);
        // Painted colour takes over the hue and leaves the grain.
        vec3 mean = layerMean[id].rgb * layerMean[id].rgb * layerTint[id].rgb, luminance = vec3(0.2126, 0.7152, 0.0722);
        float grain = min(dot(shows, luminance) / max(dot(mean, luminance), 1e-3), 2.0);
        shows = mix(shows, washColour * grain, washed.a * layerFar[id].w);
#endif
        // Odds of showing: by coverage, and by how high this layer stands here.
        weight *= exp2(10.0 * sharp * (t.a - layerLook[id].z));
        albedo += weight * shows;
        sum += weight;
#ifdef RELIEF
        tilt += weight * lean;
        rough += weight * r.z;
        // Against its mean, so that ground is as bright near by as afar.
        open += weight * r.w / max(reliefMean[id].w, 0.2);
#ifdef EXTRA
        vec2 shine = shineAt(world.xz, acrossX.xz, acrossY.xz, id);
        metal += weight * shine.y;
        mirrored += weight * mix(vec3(0.5 * shine.x), shows, shine.y);
#endif
#endif
    }
    albedo /= sum;
    float close = 0.0, dull = 0.92, unshaded = 1.0;
    vec3 mirrors = vec3(0.25), mirroredSky = vec3(0.0);
#ifdef RELIEF
    close = 1.0 - smoothstep(0.3, 0.5, away / liveMetres);
    normal = normalize(normal + tilt * (close / sum));
    dull = mix(dull, rough / sum, close);
    unshaded = mix(1.0, open / sum, close);
#ifdef EXTRA
    mirrors = mix(mirrors, mirrored / sum, close);
    metal *= close / sum;
    mirroredSky = mirrors * skyColour * (metal * ground.w * unshaded);  // metal mirrors the sky, however rough
    albedo *= 1.0 - metal;
#endif
#endif
    vec3 light = lit(albedo, normal, ground.z, ground.w * unshaded) + mirroredSky;
    vec3 between = normalize(towardsSun + normalize(camera - world));
    float gloss = 2.0 / (pow(dull, 4.0) + 0.02);
    light += sunColour * mirrors * (ground.z * (1.0 - dull) * pow(max(dot(normal, between), 0.0), gloss) * max(dot(normal, towardsSun), 0.0));
    return mix(finish(light), behind, smoothstep(0.6, 1.0, away / liveMetres));
}
#endif

#ifdef GRAIN
// How bright a leading layer's picture is against its mean, where it lies at rest: see laid(). Between its scales, and
// between the sides from which it is seen, each pixel takes one, which is half the work.
float grain() {
    float id = floor(texture(leading, placed(onCover)).r * 255.0 + 0.5);
    vec2 at = place.xy + sampleAt * place.z;
#ifdef SIDES
    // As blended() has it, but for a sharper turn from one to the next: where pixels take turns is seen.
    vec3 faces = normalize(cross(dFdx(world), dFdy(world))).yxz;
    faces *= faces;
    faces *= faces;
    faces *= faces * faces;
    float taken = spread(gl_FragCoord.xy + 31.0) * (faces.x + faces.y + faces.z);
    if (taken > faces.x && (laidFlat >> uint(id) & 1u) == 0u)
        at = vec2(taken > faces.x + faces.y ? world.x : world.z, -world.y);
#endif
#ifdef EXTRA
    vec4 lies = layerPlace[int(id)];
    at = mat2(lies.x, -lies.y, lies.y, lies.x) * (at - lies.zw);
#endif
    float times = layerGrain[int(id)].x;
#ifdef SECOND
    if (farShare(grainAway / layerGrain[int(id)].z) > spread(gl_FragCoord.xy)) times = layerGrain[int(id)].y;
#endif
    return mix(1.0, 2.0 * textureLod(grains, vec3(at * times, id), 0.0).r, grainShare);
}
#endif

void main() {
#ifdef GAPS
    if (gone(sampleAt)) discard;
#endif
#ifdef LIVE
    vec2 afarX = dFdx(sampleAt) * onLitMap.xy, afarY = dFdy(sampleAt) * onLitMap.xy;
    fineness(afarX, afarY);
    vec4 afar = textureGrad(litMap, placed(onLitMap), afarX, afarY);
#else
    vec4 afar = texture(litMap, placed(onLitMap), finer);
#endif
    vec3 c = afar.rgb * (1.0 + farGrain * (2.0 * afar.a - 1.0));
#ifdef GRAIN
    c *= grain();
#endif
#ifdef LIVE
    c = blended(c);
#endif
#ifdef OVERLAY
    c = overlaid(c, world, sampleAt);
#endif
#ifdef CONTOURS
    float band = groundBetween(sampleAt) / contourStep, wide = max(fwidth(band), 1e-6);
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
