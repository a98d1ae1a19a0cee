// The dark inside of the hill.
out vec4 shown;
void main() { shown = vec4(finish(skyColour * vec3(0.06, 0.05, 0.042)), 1.0); }
