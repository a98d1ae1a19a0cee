// What lies beneath the ground, at the foot of the level's sides: seen through openings.

void main() {
    vec2 at = place.xy + place.z * vec2(samples - 1) * vec2(float(gl_VertexID & 1), float(gl_VertexID >> 1 & 1));
    gl_Position = viewProjection * vec4(vec3(at.x, foot, at.y) - camera, 1.0);
}
