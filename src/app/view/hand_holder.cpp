#include "view/hand_holder.h"

#include <utility>

namespace jam {

Hand* HandHolder::holdingBrush() const {
    for (Hand* h = hand_.get(); h; h = h->aside.get())
        if (!h->done() && h->brushAt()) return h;
    return nullptr;
}

std::optional<glm::dvec3> HandHolder::brushAt() const {
    const Hand* h = holdingBrush();
    return h ? h->brushAt() : std::nullopt;
}

void HandHolder::letGoOfBrush() {
    with([this] {
        if (Hand* h = holdingBrush()) h->letGo(false);
    });
}

void HandHolder::putAside() {
    std::unique_ptr<Hand> next = std::move(hand_->aside);
    spent_.push_back(std::exchange(hand_, std::move(next)));
}

void HandHolder::finish() {
    if (--working_ > 0) return;
    while (hand_ && hand_->done()) putAside();
    spent_.clear();
    worked_();
}

void HandHolder::letGo(bool drop) {
    if (!hand_) return;
    with([&] {
        while (hand_) {
            putAside();
            Hand& going = *spent_.back();
            if (!going.done()) going.letGo(drop);
        }
    });
}

}  // namespace jam
