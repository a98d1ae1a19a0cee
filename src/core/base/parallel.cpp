#include "base/parallel.h"

#include <tbb/blocked_range.h>
#include <tbb/global_control.h>
#include <tbb/parallel_for.h>
#include <atomic>

namespace jam {

void parallelFor(int count, int grain, const std::function<void(int, int)>& body) {
    if (count <= 0) return;
    if (count <= grain) return body(0, count);
    // The pieces happen after this point and before the return. TBB sees to that; the counter lets the thread
    // sanitizer see it too, which cannot look into TBB.
    std::atomic<int> finished{0};
    tbb::parallel_for(tbb::blocked_range<int>(0, count, grain), [&](const tbb::blocked_range<int>& r) {
        (void)finished.load(std::memory_order_acquire);
        body(r.begin(), r.end());
        finished.fetch_add(1, std::memory_order_release);
    });
    (void)finished.load(std::memory_order_acquire);
}

struct ThreadLimit::Impl {
    tbb::global_control control;
    explicit Impl(int threads) : control(tbb::global_control::max_allowed_parallelism, static_cast<size_t>(threads)) {}
};

ThreadLimit::ThreadLimit(int threads) : impl_(std::make_unique<Impl>(threads)) {}
ThreadLimit::~ThreadLimit() = default;

}  // namespace jam
