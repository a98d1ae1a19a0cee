// Splits work over threads. Callers guarantee that pieces are independent, so the outcome never depends on
// the number of threads (set it with ThreadLimit; the default is every core).
#pragma once

#include <functional>
#include <memory>

namespace jam {

// Calls body(begin, end) over disjoint parts of [0, count), each at least `grain` long, and waits.
void parallelFor(int count, int grain, const std::function<void(int begin, int end)>& body);

// From here on this thread, and those that help it in parallelFor, run at low priority, so that a hand is never kept
// waiting for what it did not ask for. The outcome stays the same. For a thread that ends with its work: priority
// cannot be raised again.
void giveWay();

// While it lives, parallelFor uses at most `threads` threads.
class ThreadLimit {
public:
    explicit ThreadLimit(int threads);
    ~ThreadLimit();

private:
    struct Impl;
    std::unique_ptr<Impl> impl_;
};

}  // namespace jam
