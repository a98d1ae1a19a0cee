#include "base/parallel.h"

#include <sys/resource.h>
#include <tbb/blocked_range.h>
#include <tbb/global_control.h>
#include <tbb/parallel_for.h>
#include <unistd.h>
#include <algorithm>
#include <atomic>
#include <exception>
#include <thread>
#include <vector>

namespace jam {

namespace {

enum class Way { own, gives, helps };
thread_local Way way = Way::own;

void lowerPriority() { setpriority(PRIO_PROCESS, static_cast<id_t>(gettid()), 10); }

// TBB's own threads serve the hand as well and would keep their priority, so these are others.
void parallelForGently(int count, int grain, const std::function<void(int, int)>& body) {
    const auto most = static_cast<int>(tbb::global_control::active_value(tbb::global_control::max_allowed_parallelism));
    // A few pieces for each thread, so that none waits long for another.
    const int piece = std::max(grain, count / (4 * most)), pieces = (count + piece - 1) / piece;
    std::atomic<int> next{0};
    std::exception_ptr trouble;
    std::atomic<bool> failed{false};
    const auto work = [&] {
        for (int i; (i = next++) < pieces && !failed;) try {
                body(i * piece, std::min((i + 1) * piece, count));
            } catch (...) {
                if (!failed.exchange(true)) trouble = std::current_exception();
            }
    };
    way = Way::helps;  // what is split once is not split again
    std::vector<std::jthread> helpers;
    for (int i = 1; i < std::min(most, pieces); ++i)
        helpers.emplace_back([&] {
            lowerPriority();
            way = Way::helps;
            work();
        });
    work();
    helpers.clear();  // waits for them
    way = Way::gives;
    if (trouble) std::rethrow_exception(trouble);
}

}  // namespace

void giveWay() {
    lowerPriority();
    way = Way::gives;
}

void parallelFor(int count, int grain, const std::function<void(int, int)>& body) {
    if (count <= 0) return;
    if (count <= grain || way == Way::helps) return body(0, count);
    if (way == Way::gives) return parallelForGently(count, grain, body);
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
