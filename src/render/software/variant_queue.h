// Which variants of the ground's shader are ready to draw at once. Compiling one takes up to a second when no cache
// knows it, so they are made beside the window, by whoever calls next() and done() on a thread of its own with a
// renderer of its own (SceneRenderer::makeVariant): what that compiles lands in the driver's cache, where every context
// finds it.
#pragma once

#include <chrono>
#include <condition_variable>
#include <deque>
#include <mutex>
#include <optional>
#include <set>

#include "render/helpers.h"

namespace jam {

// Threads: any.
class VariantQueue : public ShaderHelper {
public:
    bool ready(const Variant& variant) override;
    void wantLater(const Variant& variant) override;

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
