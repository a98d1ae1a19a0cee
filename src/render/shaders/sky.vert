// The background at the far end of the depth range: one triangle over the picture, or with QUICK a raster of
// quads whose corners carry the colour, because a smooth sky needs no more.
uniform mat4 fromClip;   // clip space to directions from the camera

#ifdef QUICK
uniform ivec2 quads;     // across and up
out vec3 colour;
#else
out vec3 along;
#endif

void main() {
#ifdef QUICK
    ivec2 at = ivec2(gl_VertexID % (quads.x + 1), gl_VertexID / (quads.x + 1));
    vec2 p = vec2(at) / vec2(quads) * 2.0 - 1.0;
#else
    vec2 p = vec2(float((gl_VertexID & 1) << 2) - 1.0, float((gl_VertexID & 2) << 1) - 1.0);
#endif
    vec4 d = fromClip * vec4(p, 1.0, 1.0);
#ifdef QUICK
    vec3 along = normalize(d.xyz / d.w);
    colour = finish(clouded(skyTowards(along, zenithColour), along));
#else
    along = d.xyz / d.w;
#endif
    gl_Position = vec4(p, 1.0, 1.0);
}
