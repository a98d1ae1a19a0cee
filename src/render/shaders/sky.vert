// A triangle that covers the picture at the far end of the depth range.
uniform mat4 fromClip;   // clip space to directions from the camera
out vec3 along;

void main() {
    vec2 p = vec2(float((gl_VertexID & 1) << 2) - 1.0, float((gl_VertexID & 2) << 1) - 1.0);
    vec4 d = fromClip * vec4(p, 1.0, 1.0);
    along = d.xyz / d.w;
    gl_Position = vec4(p, 1.0, 1.0);
}
