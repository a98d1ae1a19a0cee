// A strip of a neighbouring level.
layout(location = 0) in vec4 spot;   // x, altitude, z; share of the way outwards


out vec3 world;
out float outwards;

void main() {
    world = spot.xyz;
    outwards = spot.w;
    gl_Position = viewProjection * vec4(world - camera, 1.0);
}
