out vec4 shown;
#ifdef QUICK
in vec3 colour;
void main() { shown = vec4(colour, 1.0); }
#else
in vec3 along;
uniform vec3 zenithColour;
uniform vec4 below;      // west, north, east and south end of what lies beneath the ground
uniform float belowFoot; // metres; what lies there is seen through openings

void main() {
    vec3 d = normalize(along);
    vec2 under = camera.xz + d.xz * ((belowFoot - camera.y) / min(d.y, -1e-6));
    if (d.y < 0.0 && all(greaterThan(under, below.xy)) && all(lessThan(under, below.zw))) {
        shown = vec4(finish(skyColour * vec3(0.06, 0.05, 0.042)), 1.0);   // the dark inside of the hill
        return;
    }
    vec3 colour = skyTowards(d, zenithColour);
    colour = clouded(colour, d);
    colour += sunColour * 0.8 * pow(max(dot(d, towardsSun), 0.0), 900.0) * smoothstep(-0.02, 0.05, d.y);
    // A grain below one step hides the bands of 8 bits.
    float grain = fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715)))) - 0.5;
    shown = vec4(finish(colour) + grain / 255.0, 1.0);
}
#endif
