// Which variants of the ground's shader are ready to draw at once. Compiling one takes up to a second when no cache
// knows it, so they are made beside the window, by whoever calls next() and done() on a thread of its own with a
// renderer of its own (Renderer::makeVariant): what that compiles lands in the driver's cache, where every context
// finds it.
#pragma once

#include <array>
#include <chrono>
#include <condition_variable>
#include <deque>
#include <mutex>
#include <optional>
#include <set>

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

// Threads: any.
class Variants {
public:
    // Whether a variant is ready; when not, it is wanted from now on.
    bool ready(const Variant& variant);
    // Wants a variant after all others.
    void wantLater(const Variant& variant);

    // Waits for a wanted variant; none when stop() was called.
    std::optional<Variant> next();
    void done(const Variant& variant);
    // Waits a while, or until stop().
    void pause(std::chrono::milliseconds time);
    // Nothing is made any more, and everything counts as ready.
    void stop();

private:
    std::mutex busy_;
    std::condition_variable change_;
    std::set<Variant> ready_, wanted_;
    std::deque<Variant> line_;
    bool stopped_ = false;
};

}  // namespace jam
