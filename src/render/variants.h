// Which variants of the ground's shader are ready to draw at once. Compiling one takes up to half a second when no
// cache knows it, so they are made beside the window, by whoever calls next() and done() on a thread of its own with a
// renderer of its own (Renderer::makeVariant): what that compiles lands in the driver's cache, where every context
// finds it.
#pragma once

#include <condition_variable>
#include <deque>
#include <mutex>
#include <optional>
#include <set>

namespace jam {

// Threads: any.
class Variants {
public:
    // Whether a variant is ready; when not, it is wanted from now on.
    bool ready(unsigned features);
    // Wants a variant after all others.
    void wantLater(unsigned features);

    // Waits for a wanted variant; none when stop() was called.
    std::optional<unsigned> next();
    void done(unsigned features);
    // Nothing is made any more, and everything counts as ready.
    void stop();

private:
    std::mutex busy_;
    std::condition_variable change_;
    std::set<unsigned> ready_, wanted_;
    std::deque<unsigned> line_;
    bool stopped_ = false;
};

}  // namespace jam
