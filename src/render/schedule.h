// Which steps are due, and when, in milliseconds of a clock that the caller reads.
#pragma once

#include <array>
#include <cstddef>
#include <optional>

namespace jam {

// Step: an enumeration from 0 to `count` - 1, in the order in which those due at once are taken.
template <class Step, size_t count>
class Schedule {
public:
    // In place of an earlier time of that step.
    void start(Step step, double now, double after) { of(step) = Due{now + after, after <= 0}; }
    void stop(Step step) { of(step).reset(); }
    bool waits(Step step) const { return of(step).has_value(); }
    // It is to be taken as soon as possible.
    bool hurries(Step step) const { return waits(step) && of(step)->atOnce; }
    bool any() const { return next().has_value(); }
    bool anyBut(Step step) const {
        for (size_t i = 0; i < count; ++i)
            if (due_[i] && i != static_cast<size_t>(step)) return true;
        return false;
    }
    // When the first is due.
    std::optional<double> next() const {
        std::optional<double> first;
        for (const auto& d : due_)
            if (d && (!first || d->at < *first)) first = d->at;
        return first;
    }
    // Takes one that is due by now.
    std::optional<Step> take(double now) {
        for (size_t i = 0; i < count; ++i)
            if (due_[i] && due_[i]->at <= now) {
                due_[i].reset();
                return static_cast<Step>(i);
            }
        return std::nullopt;
    }

private:
    struct Due {
        double at;
        bool atOnce;
    };
    std::optional<Due>& of(Step s) { return due_[static_cast<size_t>(s)]; }
    const std::optional<Due>& of(Step s) const { return due_[static_cast<size_t>(s)]; }
    std::array<std::optional<Due>, count> due_;
};

}  // namespace jam
