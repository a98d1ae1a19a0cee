// The ground. Near patches blend their layers live; beyond `liveMetres`, and with QUICK everywhere, the lit map
// stands in: the mean colours of the layers with light and shade already in it.
in vec3 world;
in vec2 onGround;
in float haze;
flat in uvec4 layers;
out vec4 shown;

uniform sampler2D litMap;      // what is shown, before haze
#ifndef QUICK
uniform sampler2D surface;     // xy east and south of the unit normal, z sun visibility, w openness to the sky
#ifndef OVERLAY
uniform sampler2DArray weights;
#endif
uniform sampler2DArray colours;  // rgb square root of linear colour, a height of the layer
uniform sampler2DArray reliefs;  // xy normal, z roughness
uniform vec4 layerLook[16];      // 1 / tile size, blend, mean height, 1 when steep ground is seen from three sides
uniform float liveMetres;
#endif
#ifdef CONTOURS
uniform float contourStep;     // metres
#endif

void main() {
    vec3 c = texture(litMap, onGround).rgb;
#ifndef QUICK
    uint count = layers.z;
    vec3 albedo = vec3(0.0), tilt = vec3(0.0);
    float rough = 0.0, sum = 1e-5, reliefSum = 1e-5;
    vec3 acrossX = dFdx(world), acrossY = dFdy(world);
    // A loop over none costs nothing, where a branch would be run by every pixel on a processor.
    for (uint once = 0u; once < min(count, 1u); ++once) {
        float away = distance(world, camera);
        vec4 ground = texture(surface, onGround);
        vec2 slope = ground.xy * 2.0 - 1.0;
        vec3 normal = vec3(slope.x, sqrt(max(1.0 - dot(slope, slope), 0.0)), slope.y);
        // How much is seen from the east, from above and from the south.
        vec3 faces = normal * normal;
        faces *= faces;
        faces /= faces.x + faces.y + faces.z;
        for (uint i = 0u; i < count; ++i) {
            uint id = ((i < 8u ? layers.x : layers.y) >> (4u * (i & 7u))) & 15u;
            float weight = texture(weights, vec3(onGround, float(id >> 2u)))[id & 3u];
            float scale = layerLook[id].x, page = float(id);
            vec3 look = mix(vec3(0.0, 1.0, 0.0), faces, layerLook[id].w);
            // Ground that is seen from above alone costs one picture; steep ground three.
            uint sides = look.y < 0.985 ? 1u : 0u;
            vec2 top = world.xz * scale, east = vec2(world.z, -world.y) * scale, south = vec2(world.x, -world.y) * scale;
            vec4 t = texture(colours, vec3(top, page));
            for (uint k = 0u; k < sides; ++k)
                t = look.y * t + look.x * textureGrad(colours, vec3(east, page), vec2(acrossX.z, -acrossX.y) * scale, vec2(acrossY.z, -acrossY.y) * scale)
                               + look.z * textureGrad(colours, vec3(south, page), vec2(acrossX.x, -acrossX.y) * scale, vec2(acrossY.x, -acrossY.y) * scale);
            // Odds of showing: by coverage, and by how high this layer stands here.
            weight *= exp2(10.0 * layerLook[id].y * (t.a - layerLook[id].z));
            albedo += weight * t.rgb * t.rgb;
            sum += weight;
            for (uint k = 0u; k < layers.w; ++k) {
                vec3 r = texture(reliefs, vec3(top, page)).xyz;
                vec2 b = r.xy * 2.0 - 1.0;
                vec3 lean = vec3(b.x, 0.0, -b.y);
                for (uint j = 0u; j < sides; ++j) {
                    vec3 re = textureGrad(reliefs, vec3(east, page), vec2(acrossX.z, -acrossX.y) * scale, vec2(acrossY.z, -acrossY.y) * scale).xyz;
                    vec3 rs = textureGrad(reliefs, vec3(south, page), vec2(acrossX.x, -acrossX.y) * scale, vec2(acrossY.x, -acrossY.y) * scale).xyz;
                    vec2 be = re.xy * 2.0 - 1.0, bs = rs.xy * 2.0 - 1.0;
                    lean = look.y * lean + look.x * vec3(0.0, be.y, be.x) + look.z * vec3(bs.x, bs.y, 0.0);
                    r.z = look.y * r.z + look.x * re.z + look.z * rs.z;
                }
                tilt += weight * lean;
                rough += weight * r.z;
                reliefSum += weight;
            }
        }
        float close = (1.0 - smoothstep(0.3, 0.5, away / liveMetres)) * float(layers.w);
        tilt *= close / reliefSum;
        rough = mix(0.92, rough / reliefSum, close);
        normal = normalize(normal + tilt);
        vec3 light = lit(albedo / sum, normal, ground.z, ground.w);
        vec3 between = normalize(towardsSun + normalize(camera - world));
        float gloss = 2.0 / (pow(rough, 4.0) + 0.02);
        light += sunColour * (ground.z * (1.0 - rough) * 0.25 * pow(max(dot(normal, between), 0.0), gloss) * max(dot(normal, towardsSun), 0.0));
        c = mix(finish(light), c, smoothstep(0.6, 1.0, away / liveMetres));
    }
#endif
#ifdef OVERLAY
    c = overlaid(c, world, onGround);
#endif
#ifdef CONTOURS
    float band = world.y / contourStep, wide = max(fwidth(band), 1e-6);
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
