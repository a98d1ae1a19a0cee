#include "shape/settle.h"

#include <algorithm>
#include <array>
#include <vector>

#include "base/parallel.h"
#include "brush/dab.h"
#include "brush/rows.h"
#include "grid/extents.h"
#include "grid/scratch.h"

namespace jam {

namespace {

void clearBorder(View<float> v) {
    std::fill_n(v.row(0), v.width, 0.f);
    std::fill_n(v.row(v.depth - 1), v.width, 0.f);
    for (int z = 1; z < v.depth - 1; ++z) v.row(z)[0] = v.row(z)[v.width - 1] = 0;
}

// In columns, what may be touched changes; one beyond it on all sides is looked at, and there nothing stands out; of
// the ground, two. So nothing needs to be known of columns farther away.
class Evening {
public:
    // Row z of the ground is row first + z of the extents of what may be touched.
    Evening(View<float> ground, View<const float> start, View<const float> usable, const Extents& extents, int first)
        : ground_(ground), start_(start), usable_(usable), extents_(extents), first_(first) {
        const auto row = [&] { return Room(static_cast<size_t>(ground.width + 2), 0.f); };
        for (auto& pass : excess_) std::generate(pass.begin(), pass.end(), row);
        std::generate(was_.begin(), was_.end(), row), std::generate(takers_.begin(), takers_.end(), row);
    }
    // All passes go down the rows together, each two behind the one before, so that what they look at is near at
    // hand. A row of ground is changed once the excess of the one below it is known.
    void run() {
        constexpr int kBehind = 2;
        static_assert(kKept >= (kPasses - 1) * kBehind + 2);
        for (int front = -1; front < ground_.depth + (kPasses - 1) * kBehind; ++front) {
            if (front + 1 < ground_.depth) know(front + 1);
            for (int pass = 0; pass < kPasses; ++pass) {
                const int z = front - pass * kBehind;
                if (z < -1 || z >= ground_.depth) continue;
                find(pass, z + 1);
                if (z >= 0) share(pass, z);
            }
        }
    }

    static constexpr int kPasses = 3;
    // Rows to both sides that decide what becomes of a row.
    static constexpr int kReach = 2 * kPasses;

private:
    using Room = std::vector<float>;
    static constexpr int kKept = 6;  // rows, from the first pass's to the last one's

    bool inner(int z) const { return z > 0 && z < ground_.depth - 1; }
    // One more to both sides, and the sample at the left edge at 1.
    float* excess(int pass, int z) {
        return excess_[static_cast<size_t>(pass)][static_cast<size_t>((z + 3) % 3)].data() + 1;
    }
    float* was(int z) { return was_[static_cast<size_t>(z % kKept)].data(); }
    float* takers(int z) { return takers_[static_cast<size_t>(z % kKept)].data(); }

    // Columns of an inner row that are looked at, but for the level's outermost.
    Extents::Span seen(int z) const { return extents_.near(first_ + z, 1).clipped(1, ground_.width - 1); }

    // How far samples of an inner row stand out.
    void standOut(View<const float> h, int z, float* out) const {
        const auto [x, end] = seen(z);
        if (x < end) rowKernels().standOut(out + x, h.row(z - 1) + x, h.row(z) + x, h.row(z + 1) + x, end - x);
    }
    // How far samples of a row stood out, and how many neighbours of each may be touched.
    void know(int z) {
        const float *a = usable_.row(z) + 1, *u = usable_.row(z + 1) + 1, *b = usable_.row(z + 2) + 1;
        float* __restrict t = takers(z);
        const Extents::Span all = extents_.near(first_ + z, 1);
        for (int x = all.x0; x < all.x1; ++x)
            t[x] = a[x - 1] + a[x] + a[x + 1] + u[x - 1] + u[x + 1] + b[x - 1] + b[x] + b[x + 1];
        if (inner(z)) standOut(start_, z, was(z));
    }
    // What each sample of a row gives to each of its neighbours.
    void find(int pass, int z) {
        float* e = excess(pass, z);
        if (!inner(z)) {
            std::fill_n(e, ground_.width, 0.f);
            return;
        }
        standOut(ground_, z, e);
        if (const auto [x, end] = seen(z); x < end)
            rowKernels().excess(e + x, was(z) + x, usable_.row(z + 1) + 1 + x, takers(z) + x, end - x);
    }
    void share(int pass, int z) {
        if (const auto [x, end] = extents_.row(first_ + z); x < end)
            rowKernels().shareOut(ground_.row(z) + x, excess(pass, z - 1) + x, excess(pass, z) + x,
                                  excess(pass, z + 1) + x, usable_.row(z + 1) + 1 + x, takers(z) + x, end - x);
    }

    View<float> ground_;
    View<const float> start_, usable_;
    const Extents& extents_;
    int first_;
    std::array<Room, kKept> was_, takers_;             // in turns
    std::array<std::array<Room, 3>, kPasses> excess_;  // likewise
};

// Bands of rows, on several threads. `room` is as large as the ground.
void evenOut(View<float> ground, View<const float> start, View<const float> usable, const Extents& extents,
             View<float> room) {
    const int w = ground.width, d = ground.depth;
    if (d <= kRowsPerThread) return Evening(ground, start, usable, extents, 0).run();
    // Rows [first, end) of the whole, where `reach` around what may be touched.
    const auto copyRows = [&](int first, int end, int reach, View<const float> from, View<float> to) {
        for (int z = first; z < end; ++z)
            if (const Extents::Span s = extents.near(z, reach); !s.empty())
                std::copy_n(from.row(z - first) + s.x0, s.width(), to.row(z - first) + s.x0);
    };
    parallelFor(d, kRowsPerThread, [&](int first, int end) {
        const int top = std::max(first - Evening::kReach, 0), bottom = std::min(end + Evening::kReach, d),
                  rows = bottom - top;
        const Scratch band(w, rows);
        copyRows(top, bottom, 2, ground.part(0, top, w, rows), band.view());
        Evening(band.view(), start.part(0, top, w, rows), usable.part(0, top, w + 2, rows + 2), extents, top).run();
        copyRows(first, end, 0, band.view().part(0, first - top, w, end - first), room.part(0, first, w, end - first));
    });
    parallelFor(d, kRowsPerThread, [&](int first, int end) {
        copyRows(first, end, 0, room.part(0, first, w, end - first), ground.part(0, first, w, end - first));
    });
}

}  // namespace

void settle(View<float> ground, View<const float> start, View<const float> fallen, View<const float> usable) {
    const int w = ground.width, d = ground.depth;
    const Extents extents(usable.part(1, 1, w, d));
    const Scratch once(w + 2, d + 2);
    clearBorder(once.view());
    // Columns [x, end) of row z; all rows but the ground's have a border.
    const auto spread = [&](View<const float> load, int z, int x, int end, float* out) {
        const auto at = [x, z](View<const float> v, int down) { return v.row(z + 1 + down) + 1 + x; };
        rowKernels().spread(out, at(load, -1), at(load, 0), at(load, 1), at(usable, -1), at(usable, 0), at(usable, 1),
                            end - x);
    };
    parallelFor(d, kRowsPerThread, [&](int first, int end) {
        for (int z = first; z < end; ++z)
            if (const auto [x, x1] = extents.near(z, 1); x < x1)
                spread(fallen, z, x, x1, once.view().row(z + 1) + 1 + x);
    });
    parallelFor(d, kRowsPerThread, [&](int first, int end) {
        std::vector<float> twice(static_cast<size_t>(w));
        for (int z = first; z < end; ++z) {
            const auto [from, x1] = extents.row(z);
            if (from >= x1) continue;
            spread(once.view(), z, from, x1, twice.data() + from);
            const float* __restrict now = twice.data(), * __restrict before = fallen.row(z + 1) + 1;
            float* __restrict h = ground.row(z);
            for (int x = from; x < x1; ++x) h[x] += now[x] - before[x];
        }
    });
    evenOut(ground, start, usable, extents, once.view().part(1, 1, w, d));
}

}  // namespace jam
