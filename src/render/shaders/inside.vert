// What lies beneath the ground, at the foot of the level's sides: seen through openings.
uniform mat4 viewProjection;
uniform vec4 rect;   // west, north, east and south end
uniform float foot;  // metres

void main() {
    vec2 at = vec2((gl_VertexID & 1) == 0 ? rect.x : rect.z, (gl_VertexID & 2) == 0 ? rect.y : rect.w);
    gl_Position = viewProjection * vec4(vec3(at.x, foot, at.y) - camera, 1.0);
}
