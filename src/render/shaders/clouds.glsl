// Thin clouds, high above: they show where the sky is and how the sun stands, and nothing moves in them.
uniform sampler2D wander;

vec3 clouded(vec3 colour, vec3 d) {
    if (d.y <= 0.0) return colour;
    vec2 p = d.xz / (d.y + 0.16);
    float wide = textureLod(wander, p * vec2(0.045, 0.075) + vec2(0.31, 0.17), 0.0).r;
    float fine = textureLod(wander, p * vec2(0.16, 0.22) + vec2(0.63, 0.41), 0.0).r;
    float thick = smoothstep(0.50, 0.74, 0.68 * wide + 0.32 * fine) * smoothstep(0.02, 0.28, d.y);
    // Lit from where the sun is; thin edges let it through.
    float towards = 0.5 + 0.5 * dot(d, towardsSun);
    vec3 white = hazeColour * 0.75 + sunColour * (0.10 + 0.16 * towards * towards);
    return mix(colour, white, 0.75 * thick);
}
