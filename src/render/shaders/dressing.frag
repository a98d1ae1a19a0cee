#ifdef PAINTED
uniform sampler2D picture;
in vec2 spot;
in vec4 fall;
flat in vec3 tinted;
#else
in vec3 light;
#endif
out vec4 shown;

void main() {
#ifdef PAINTED
    vec4 here = texture(picture, spot);
    if (here.a < 0.5) discard;
    shown = vec4(mix(finish(linear(here.rgb * tinted) * fall.rgb), hazeShown, fall.a), 1.0);
#else
    shown = vec4(light, 1.0);
#endif
}
