// The edge of the land, dropping as a cliff: one instance for each piece of the edge, with the ground on its left.
layout(location = 0) in vec4 piece;   // column and row where it begins, and where it ends


out vec3 world;
out float depth;
flat out vec3 normal;

void main() {
    vec2 at = (gl_VertexID & 2) == 0 ? piece.xy : piece.zw, along = piece.zw - piece.xy;
    bool low = (gl_VertexID & 1) == 1;
    // The way out of the land, over some samples: pieces of a cut edge turn this way and that, and would look like boards.
    vec2 outwards = vec2(0.0);
    for (int z = -4; z <= 4; z += 2)
        for (int x = -4; x <= 4; x += 2)
            outwards += vec2(x, z) * gapSample(clamp(ivec2(round(at)) + ivec2(x, z), ivec2(0), samples - 1));
    normal = dot(outwards, outwards) > 0.01 ? normalize(vec3(outwards.x, 0.0, outwards.y)) : normalize(vec3(-along.y, 0.0, along.x));
    world = vec3(place.x + at.x * place.z, surfaceBetween(at) - (low ? cliff : 0.0), place.y + at.y * place.z);
    depth = low ? cliff : 0.0;
    gl_Position = viewProjection * vec4(world - camera, 1.0);
}
