// A counted pointer for values that are shared until somebody writes.
#pragma once

#include <atomic>
#include <utility>

namespace jam {

// Invariants:
// 1. A value reachable from more than one CowPtr is never modified.
// 2. write() returns a value that only this CowPtr reaches, cloning it first when it is shared.
// Threads: different CowPtr objects may be used from different threads even when they share a value.
// std::shared_ptr is not enough for this, because its use_count() orders nothing between threads.
template <class T>
class CowPtr {
public:
    CowPtr() = default;
    explicit CowPtr(T value) : cell_(new Cell{std::move(value)}) {}
    CowPtr(const CowPtr& o) : cell_(o.cell_) {
        if (cell_) cell_->owners.fetch_add(1, std::memory_order_relaxed);
    }
    CowPtr(CowPtr&& o) noexcept : cell_(std::exchange(o.cell_, nullptr)) {}
    CowPtr& operator=(CowPtr o) noexcept {
        std::swap(cell_, o.cell_);
        return *this;
    }
    ~CowPtr() {
        if (cell_ && cell_->owners.fetch_sub(1, std::memory_order_acq_rel) == 1) delete cell_;
    }

    const T* get() const { return cell_ ? &cell_->value : nullptr; }
    const T& operator*() const { return cell_->value; }
    const T* operator->() const { return &cell_->value; }
    explicit operator bool() const { return cell_ != nullptr; }
    bool operator==(const CowPtr& o) const { return cell_ == o.cell_; }

    T& write() {
        if (cell_->owners.load(std::memory_order_acquire) != 1) *this = CowPtr(cell_->value);
        return cell_->value;
    }

private:
    struct Cell {
        T value;
        std::atomic<int> owners{1};
    };
    Cell* cell_ = nullptr;  // owned together with the other CowPtrs that point at it
};

}  // namespace jam
