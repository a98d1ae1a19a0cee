// The cut sides of the level, like those of a model: two vertices per border sample.
uniform sampler2D heights;
uniform int side;       // 0 north, 1 east, 2 south, 3 west
uniform int stride;     // samples from one pair of vertices to the next

out vec3 world;
out float depth;        // metres below the ground's edge
out vec2 sampleAt;
flat out vec3 normal;

void main() {
    int last = (side & 1) == 0 ? samples.x - 1 : samples.y - 1;
    int along = min((gl_VertexID >> 1) * stride, last);
    ivec2 p = side == 0 ? ivec2(along, 0) : side == 1 ? ivec2(samples.x - 1, along)
            : side == 2 ? ivec2(along, samples.y - 1) : ivec2(0, along);
    normal = side == 0 ? vec3(0, 0, -1) : side == 1 ? vec3(1, 0, 0) : side == 2 ? vec3(0, 0, 1) : vec3(-1, 0, 0);
    float top = texelFetch(heights, p, 0).r;
    bool low = (gl_VertexID & 1) == 1;
    float bottom = cliff > 0.0 ? top - cliff : foot;
    sampleAt = vec2(p);
    world = vec3(place.x + float(p.x) * place.z, low ? bottom : top, place.y + float(p.y) * place.z);
    depth = low ? top - bottom : 0.0;
    gl_Position = viewProjection * vec4(world - camera, 1.0);
}
