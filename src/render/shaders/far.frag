uniform sampler2DArray colours, facings;
in vec3 spot;
flat in vec4 tinted;
flat in vec2 yaw;
in float haze;
out vec4 shown;

void main() {
    vec4 colour = texture(colours, spot);
    if (colour.a < 0.3) discard;
    vec4 facing = texture(facings, spot);
    vec3 m = facing.xyz * 2.0 - 1.0;
    vec3 n = normalize(vec3(yaw.x * m.x + yaw.y * m.z, m.y, yaw.x * m.z - yaw.y * m.x) + vec3(0.0, 1e-4, 0.0));
    shown = vec4(mix(finish(linear(colour.rgb * tinted.rgb) * falling(n, tinted.a, facing.a)), hazeShown, haze), 1.0);
}
