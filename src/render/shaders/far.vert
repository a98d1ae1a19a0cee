// What is seen small: a picture of it that faces the eye.
layout(location = 3) in vec4 where;   // of its foot, and its size
layout(location = 4) in vec4 turn;    // quaternion
layout(location = 5) in vec4 tint;    // factors of sRGB, and how much sun gets there
layout(location = 6) in float view;   // which picture
uniform vec2 ball;                    // metres: its middle above the foot, its radius
out vec3 spot;
flat out vec4 tinted;
flat out vec2 yaw;                    // cosine and sine of how it is turned
out float haze;

void main() {
    vec2 corner = vec2(gl_VertexID & 1, gl_VertexID >> 1);
    vec3 middle = where.xyz + vec3(0.0, ball.x * where.w, 0.0), away = normalize(middle - camera);
    vec3 right = normalize(vec3(-away.z, 0.0, away.x) + vec3(1e-6, 0.0, 0.0)), up = cross(right, away);
    vec2 at = (corner * 2.0 - 1.0) * ball.y * where.w;
    vec3 world = middle + right * at.x + up * at.y;
    spot = vec3(corner, view);
    tinted = tint;
    yaw = vec2(1.0 - 2.0 * turn.y * turn.y, 2.0 * turn.y * turn.w);
    haze = hazeShare(world);
    gl_Position = viewProjection * vec4(world - camera, 1.0);
}
