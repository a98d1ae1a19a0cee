in vec3 world;
in float depth;
flat in vec3 normal;
out vec4 shown;

#ifdef GAPS
in vec2 sampleAt;
#endif

void main() {
#ifdef GAPS
    if (gone(sampleAt)) discard;
#endif
    // Turf, topsoil, then beds of subsoil.
    vec3 colour = depth < 0.5 ? vec3(0.09, 0.10, 0.04) : depth < 2.0 ? vec3(0.10, 0.065, 0.04) : vec3(0.23, 0.19, 0.15);
    float wave = world.y + 1.2 * sin(world.x * 0.021 + 1.0) + 1.2 * sin(world.z * 0.017) + 0.35 * sin((world.x + world.z) * 0.13);
    if (depth >= 2.0) colour *= 0.86 + 0.14 * smoothstep(0.35, 0.65, abs(fract(wave / 9.0) - 0.5) * 2.0);
    vec3 c = finish(lit(colour, normal, 0.8, 1.0));
    shown = vec4(mix(c, hazeShown, hazeShare(world)), 1.0);
}
