// The ground. Near patches (LIVE) blend their layers; beyond `liveMetres` the lit map stands in: the mean colours of the
// layers with light and shade already in it, and GRAIN lays the picture of the leading layer over it. RELIEF adds normal maps, SIDES three-sided projection, EXTRA what few layers
// have: shine, blends of their own between pairs, wandering brightness, and painted colour.
in vec3 world;
in vec2 sampleAt;
in float farGrain;
in float haze;
flat in uvec4 layers;
out vec4 shown;

uniform sampler2D litMap;      // what is shown, before haze; its grain from afar
// From a sample's column and row to a place on a texture, as scale and offset: of the lit map; of those that are kept for
// the near ground, by ground samples and by cover samples.
#ifndef OVERLAY
uniform vec4 onLitMap;
#endif
uniform vec4 onNear, onCover;
vec2 placed(vec4 on) { return sampleAt * on.xy + on.zw; }
#ifdef LIVE
uniform sampler2D surface;     // xy east and south of the unit normal, z sun visibility, w openness to the sky
uniform sampler2DArray weights;
uniform sampler2D wash;          // painted colour: square root of the linear colour times its strength; strength
uniform float pairBlend[256];    // how sharply layer i stands out against layer k, at 16 i + k
uniform float liveMetres;
#endif
#ifndef LIVE
uniform float finer;           // added to the level of detail at which the lit map is read
#endif
#ifdef GRAIN
uniform sampler2D leading;     // the layer that weighs most
uniform sampler2DArray grains; // brightness of its pictures, a half where it is their mean
uniform float layerGrain[16];  // repeats a metre
uniform vec3 place;
in float grainShare;
#endif
#ifdef CONTOURS
uniform float contourStep;     // metres
#endif

#ifdef LIVE
uint layerAt(uint i) { return ((i < 8u ? layers.x : layers.y) >> (4u * (i & 7u))) & 15u; }

float weightOf(uint id) { return texture(weights, vec3(placed(onCover), float(id >> 2u)))[id & 3u]; }

#ifdef EXTRA
// How sharply a layer stands out: what is set for the pairs it meets here, by their weights.
float sharpnessOf(uint id) {
    float met = 0.0, total = 1e-4;
    for (uint j = 0u; j < layers.z; ++j) {
        uint other = layerAt(j);
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
    // How much is seen from the east, from above and from the south.
    vec3 faces = normal * normal;
    faces *= faces;
    faces /= faces.x + faces.y + faces.z;
    vec2 east = vec2(world.z, -world.y), eastX = vec2(acrossX.z, -acrossX.y), eastY = vec2(acrossY.z, -acrossY.y);
    vec2 south = vec2(world.x, -world.y), southX = vec2(acrossX.x, -acrossX.y), southY = vec2(acrossY.x, -acrossY.y);
#endif
#ifdef EXTRA
    float wandered = wanderAt(world.xz), metal = 0.0;
    vec4 washed = texture(wash, placed(onNear));
    vec3 washColour = washed.rgb / max(washed.a, 1e-4), mirrored = vec3(0.0);
    washColour *= washColour;
#endif
    vec3 albedo = vec3(0.0), tilt = vec3(0.0);
    float rough = 0.0, open = 0.0, sum = 1e-5;
    for (uint i = 0u; i < layers.z; ++i) {
        uint id = layerAt(i);
        float weight = weightOf(id), sharp = layerLook[id].y;
        vec4 t = laidColour(world.xz, acrossX.xz, acrossY.xz, id, away);
#ifdef SIDES
        vec3 look = mix(vec3(0.0, 1.0, 0.0), faces, layerLook[id].w);
        t = look.y * t + look.x * laidColour(east, eastX, eastY, id, away) + look.z * laidColour(south, southX, southY, id, away);
#endif
        vec3 shows = t.rgb * t.rgb * layerTint[id].rgb;
#ifdef EXTRA
        sharp = sharpnessOf(id);
        shows *= 1.0 + layerFar[id].z * wandered;
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
        vec4 r = laidRelief(world.xz, acrossX.xz, acrossY.xz, id, away);
        vec3 lean = vec3(r.x, 0.0, r.y);
#ifdef SIDES
        vec4 e = laidRelief(east, eastX, eastY, id, away), s = laidRelief(south, southX, southY, id, away);
        lean = look.y * lean + look.x * vec3(0.0, -e.y, e.x) + look.z * vec3(s.x, -s.y, 0.0);
        r.zw = look.y * r.zw + look.x * e.zw + look.z * s.zw;
#endif
        tilt += weight * lean;
        rough += weight * r.z;
        // Against its mean, so that ground is as bright near by as afar.
        open += weight * r.w / max(reliefMean[id].w, 0.2);
#ifdef EXTRA
        // Few layers shine; the others mirror 4 % of the light and are no metal.
        vec2 shine = mix(vec2(0.5, 0.0), seen(shines, sightOf(world.xz, acrossX.xz, acrossY.xz, id, 1.0), id, vec4(0.5, 0.0, 0.0, 1.0)).xy, float(layerBits.z >> id & 1u));
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
// How bright a leading layer's picture is against its mean.
float grain() {
    float id = floor(texture(leading, placed(onCover)).r * 255.0 + 0.5);
    vec2 at = (place.xy + sampleAt * place.z) * layerGrain[int(id)];
    return mix(1.0, 2.0 * texture(grains, vec3(at, id), finer).r, grainShare);
}
#endif

void main() {
#ifdef GAPS
    if (gone(sampleAt)) discard;
#endif
#ifdef LIVE
    vec4 afar = texture(litMap, placed(onLitMap));
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
