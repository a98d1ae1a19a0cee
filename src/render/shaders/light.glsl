// Light shared by everything that is drawn; light.h bakes the same into the lit map on the processor. All colours
// are linear; finish() turns them into what is shown.
// One view of a level, the same for all that is drawn in it: SceneBlock of scene_view.cpp fills it. The ground has one of
// its own, whose sun and sky are as many times brighter as its light is stored darker.
layout(std140) uniform Scene {
    mat4 viewProjection;     // of positions relative to the camera
    vec3 camera;
    float hazeMetres;        // distance at which about two thirds have faded
    vec3 towardsSun;
    float smoothEdges;       // 1: gaps are cut over the triangles of the ground; 0: cell by cell
    vec3 sunColour;
    float cliff;             // metres that the land's edge drops, 0 for down to the foot
    vec3 skyColour;          // light from above
    float foot;              // metres: where the level's sides end
    vec3 hazeColour;         // what distance fades into
    float finer;             // added to the level of detail at which the lit map is read
    vec3 hazeShown;          // the same after finish(), which is too dear for every pixel
    float time;              // seconds, of moving water
    vec3 zenithColour;
    vec3 airHaze;            // the sky over the water, for who dives
    vec3 airZenith;
    vec3 place;              // origin x, origin z, spacing
    ivec2 samples;
    ivec4 gapsAt;            // the ground samples that the texture of gaps holds: the first, how many
    // From a sample's column and row to a place on a texture, as scale and offset: of the lit map; of those that are kept
    // for the near ground, by ground samples and by cover samples.
    vec4 onLitMap, onNear, onCover;
    vec4 reading;            // of textures: Pass::finer; times as coarse; share of the lit map's grain
};

// Share of a layer's second scale so many times as far away as it is set to begin: it comes in over four doublings,
// slowly at first, because what is larger has more contrast there, and ground that gets livelier with distance is seen
// as a ring.
float farShare(float times) {
    float t = clamp(0.4 + 0.25 * log2(max(times, 0.1)), 0.0, 1.0);
    return t * t;
}

// An even spread of [0, 1) over pixels, each far from its neighbours': interleaved gradient noise (Jimenez, 2014).
float spread(vec2 pixel) { return fract(52.9829189 * fract(dot(pixel, vec2(0.06711056, 0.00583715)))); }

vec3 lit(vec3 albedo, vec3 normal, float sun, float open) {
    float direct = max(dot(normal, towardsSun), 0.0) * sun;
    vec3 ambient = (skyColour * (0.62 + 0.38 * normal.y) + sunColour * 0.045 * (1.0 - normal.y)) * open;
    return albedo * (sunColour * direct + ambient);
}

// From sRGB, nearly.
vec3 linear(vec3 srgb) { return srgb * srgb * (0.305 * srgb + 0.695); }

// The light that falls on what grows. Leaves and blades let light through, so that the side away from the sun is not
// black.
vec3 falling(vec3 normal, float sun, float open) {
    float facing = dot(normal, towardsSun), direct = max(facing, 0.0) * 0.85 + 0.15 * (0.5 + 0.5 * facing);
    vec3 ambient = (skyColour * (0.62 + 0.38 * normal.y) + sunColour * 0.045 * (1.0 - normal.y)) * open;
    return sunColour * direct * sun * (0.55 + 0.45 * open) + ambient;
}

float hazeShare(vec3 world) {
    float d = distance(world, camera) / hazeMetres;
    return 1.0 - exp(-d * d);
}

vec3 finish(vec3 colour) {
    vec3 shown = 1.0 - exp(-1.35 * colour), root = sqrt(shown);
    // Its 2.2nd root, to 0.6 of 255 steps: powers are dear where a processor draws.
    return 0.98 * root + 0.0802 * sqrt(root) - 0.0602 * shown;
}

// Light from the sky in a direction, without the sun's disc.
vec3 skyTowards(vec3 d, vec3 zenithColour) {
    float down = 1.0 - max(d.y, 0.0);
    vec3 colour = mix(hazeColour, zenithColour, 1.0 - down * down * down);
    // Below the horizon the haze deepens towards the sky's own colour, so that the model seems to stand in air.
    colour = mix(colour, zenithColour * 0.55, 0.7 * smoothstep(0.0, 0.9, -d.y));
    float near = max(dot(d, towardsSun), 0.0);
    near *= near * near;
    near *= near;
    near *= near;  // its twelfth power
    return colour + sunColour * 0.10 * near * smoothstep(-0.02, 0.05, d.y);
}
