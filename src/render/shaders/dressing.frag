in vec3 light;
out vec4 shown;

void main() { shown = vec4(light, 1.0); }
