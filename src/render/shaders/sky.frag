in vec3 along;
out vec4 shown;
uniform vec3 zenithColour;

void main() {
    vec3 d = normalize(along);
    float up = max(d.y, 0.0);
    vec3 colour = mix(hazeColour, zenithColour, 1.0 - pow(1.0 - up, 3.0));
    // Below the horizon the haze darkens a little, so that the model seems to stand in mist.
    colour *= 1.0 - 0.75 * smoothstep(0.0, 0.8, -d.y);
    float towards = max(dot(d, towardsSun), 0.0);
    colour += sunColour * (0.10 * pow(towards, 12.0) + 0.8 * pow(towards, 900.0)) * smoothstep(-0.02, 0.05, d.y);
    // A grain below one step hides the bands of 8 bits.
    float grain = fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715)))) - 0.5;
    shown = vec4(finish(colour) + grain / 255.0, 1.0);
}
