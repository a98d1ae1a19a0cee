// How long work talks to whoever started it: progress out, cancellation in. Passed in, never global.
#pragma once

#include <atomic>
#include <functional>

#include "base/result.h"

namespace jam {

struct Context {
    // Called from the working thread with a share in [0, 1]; may be empty.
    std::function<void(double)> progress;
    // Set to true by anyone to ask the work to stop soon; may be null.
    const std::atomic<bool>* cancel = nullptr;

    bool cancelled() const { return cancel && cancel->load(std::memory_order_relaxed); }
    void report(double share) const {
        if (progress) progress(share);
    }
};

// What work returns that was asked to stop.
inline Error cancelledError() { return {"", "", "it was cancelled", "start again when you like"}; }
inline bool wasCancelled(const Error& error) { return error.problem == cancelledError().problem; }

}  // namespace jam
