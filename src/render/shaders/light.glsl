// Light shared by everything that is drawn; light.h bakes the same into the lit map on the processor. All colours
// are linear; finish() turns them into what is shown.
uniform vec3 camera;
uniform vec3 towardsSun;
uniform vec3 sunColour;
uniform vec3 skyColour;     // light from above
uniform vec3 hazeColour;    // what distance fades into
uniform float hazeMetres;   // distance at which about two thirds have faded

vec3 lit(vec3 albedo, vec3 normal, float sun, float open) {
    float direct = max(dot(normal, towardsSun), 0.0) * sun;
    vec3 ambient = (skyColour * (0.62 + 0.38 * normal.y) + sunColour * 0.045 * (1.0 - normal.y)) * open;
    return albedo * (sunColour * direct + ambient);
}

float hazeShare(vec3 world) {
    float d = distance(world, camera) / hazeMetres;
    return 1.0 - exp(-d * d);
}

vec3 finish(vec3 colour) {
    vec3 shown = 1.0 - exp(-1.35 * colour);
    return pow(shown, vec3(1.0 / 2.2));
}
