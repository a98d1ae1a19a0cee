// Variants of the ground's shader.
#pragma once

#include <array>
#include <compare>
#include <cstddef>

namespace jam {

// What software drivers compile a shader for, beside its text: how each texture that it reads is kept and looked up.
// All zero where it reads none.
struct TextureKind {
    int target = 0, format = 0, minify = 0, magnify = 0, wrapX = 0, wrapZ = 0;
    bool evenX = false, evenZ = false;  // its sides are powers of two
    bool mipmapped = false;
    auto operator<=>(const TextureKind&) const = default;
};

constexpr size_t kTextureUnits = 13;

struct Variant {
    unsigned features = 0;  // as in ground_programs.h
    std::array<TextureKind, kTextureUnits> textures{};
    auto operator<=>(const Variant&) const = default;
};

}  // namespace jam
