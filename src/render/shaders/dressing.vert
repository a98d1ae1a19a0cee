// What stands on the ground: each vertex is lit by itself, and triangles only spread its colour, or the light that falls
// on a picture (PAINTED).
layout(location = 0) in vec3 at;      // metres from its foot
layout(location = 1) in vec3 normal;
layout(location = 2) in vec4 colour;  // sRGB, and how much of the sky it sees
layout(location = 3) in vec4 where;   // of its foot, and its size
layout(location = 4) in vec4 turn;    // quaternion
layout(location = 5) in vec4 tint;    // factors of sRGB, and how much sun gets there
#ifdef PAINTED
layout(location = 6) in vec2 inPicture;
out vec2 spot;
out vec4 fall;                        // light, and how much of it the haze hides
flat out vec3 tinted;
#else
out vec3 light;
#endif

vec3 turned(vec3 v) { return v + 2.0 * cross(turn.xyz, cross(turn.xyz, v) + turn.w * v); }

void main() {
    vec3 world = where.xyz + turned(at * where.w), n = turned(normal);
    vec3 falls = falling(n, tint.a, colour.a);
#ifdef PAINTED
    spot = inPicture;
    fall = vec4(falls, hazeShare(world));
    tinted = tint.rgb;
#else
    light = mix(finish(linear(colour.rgb * tint.rgb) * falls), hazeShown, hazeShare(world));
#endif
    gl_Position = viewProjection * vec4(world - camera, 1.0);
}
