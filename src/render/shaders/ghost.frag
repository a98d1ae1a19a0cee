in vec3 world;
in float outwards;
out vec4 shown;

void main() {
    vec3 normal = normalize(cross(dFdy(world), dFdx(world)));
    if (normal.y < 0.0) normal = -normal;
    vec3 c = finish(lit(vec3(0.30, 0.29, 0.31), normal, 0.8, 1.0));
    shown = vec4(mix(c, hazeShown, hazeShare(world)), 0.75 * (1.0 - outwards));
}
