// Room for a raster that passes. While a stroke lives it is handed out again: large rooms asked of the system anew for
// every stamp would cost more than what is done in them.
#pragma once

#include <memory>

#include "grid/view.h"

namespace jam {

class Scratch {
public:
    // The contents are unspecified. Any thread, also inside parallelFor.
    Scratch(int width, int depth);
    ~Scratch();
    Scratch(const Scratch&) = delete;
    Scratch& operator=(const Scratch&) = delete;

    int width() const { return width_; }
    int depth() const { return depth_; }
    float& at(int x, int z) const { return view().at(x, z); }
    View<float> view() const { return {room_.get(), width_, depth_, width_}; }

    // While one lives, rooms that nobody uses are kept; with the last they go back to the system.
    class Keeping {
    public:
        Keeping();
        Keeping(const Keeping&) : Keeping() {}
        Keeping& operator=(const Keeping&) = default;
        ~Keeping();
    };
    // Bytes that nobody uses and that are kept; never more than kMost.
    static size_t kept();
    static constexpr size_t kMost = size_t{256} << 20;

private:
    std::unique_ptr<float[]> room_;
    size_t size_ = 0;
    int width_ = 0, depth_ = 0;
};

}  // namespace jam
