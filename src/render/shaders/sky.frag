out vec4 shown;
#ifdef QUICK
in vec3 colour;
void main() { shown = vec4(colour, 1.0); }
#else
in vec3 along;

void main() {
    vec3 d = normalize(along);
    vec3 colour = skyTowards(d, zenithColour);
    colour = clouded(colour, d);
    colour += sunColour * 0.8 * pow(max(dot(d, towardsSun), 0.0), 900.0) * smoothstep(-0.02, 0.05, d.y);
    // A grain below one step hides the bands of 8 bits.
    float grain = spread(gl_FragCoord.xy) - 0.5;
    shown = vec4(finish(colour) + grain / 255.0, 1.0);
}
#endif
