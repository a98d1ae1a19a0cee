#include "shape/settle.h"

#include <algorithm>
#include <array>
#include <vector>

#include "base/parallel.h"
#include "brush/dab.h"
#include "brush/rows.h"
#include "grid/scratch.h"

namespace jam {

namespace {

void clearBorder(View<float> v) {
    std::fill_n(v.row(0), v.width, 0.f);
    std::fill_n(v.row(v.depth - 1), v.width, 0.f);
    for (int z = 1; z < v.depth - 1; ++z) v.row(z)[0] = v.row(z)[v.width - 1] = 0;
}

class Evening {
public:
    Evening(View<float> ground, View<const float> start, View<const float> usable)
        : ground_(ground), usable_(usable), was_(ground.width, ground.depth), takers_(ground.width, ground.depth) {
        for (Rooms& pass : excess_)
            for (Room& r : pass) r.assign(static_cast<size_t>(ground.width + 2), 0.f);
        for (int z = 0; z < ground.depth; ++z) {
            const float *a = usable.row(z) + 1, *u = usable.row(z + 1) + 1, *b = usable.row(z + 2) + 1;
            float* __restrict takers = takers_.view().row(z);
            for (int x = 0; x < ground.width; ++x)
                takers[x] = a[x - 1] + a[x] + a[x + 1] + u[x - 1] + u[x + 1] + b[x - 1] + b[x] + b[x + 1];
            if (inner(z)) standOut(start, z, was_.view().row(z));
        }
    }
    // All passes go down the rows together, each two behind the one before, so that what they look at is near at
    // hand. A row of ground is changed once the excess of the one below it is known.
    void run() {
        constexpr int kBehind = 2;
        for (int front = -1; front < ground_.depth + (kPasses - 1) * kBehind; ++front)
            for (int pass = 0; pass < kPasses; ++pass) {
                const int z = front - pass * kBehind;
                if (z < -1 || z >= ground_.depth) continue;
                find(pass, z + 1);
                if (z >= 0) share(pass, z);
            }
    }

    static constexpr int kPasses = 3;
    // Rows to both sides that decide what becomes of a row.
    static constexpr int kReach = 2 * kPasses;

private:
    using Room = std::vector<float>;
    using Rooms = std::array<Room, 3>;  // of three rows, in turns

    bool inner(int z) const { return z > 0 && z < ground_.depth - 1; }
    // One more to both sides, and the sample at the left edge at 1.
    float* excess(int pass, int z) {
        return excess_[static_cast<size_t>(pass)][static_cast<size_t>((z + 3) % 3)].data() + 1;
    }

    // How far samples of an inner row stand out, but for the outermost.
    static void standOut(View<const float> h, int z, float* out) {
        rowKernels().standOut(out + 1, h.row(z - 1) + 1, h.row(z) + 1, h.row(z + 1) + 1, h.width - 2);
    }
    // What each sample of a row gives to each of its neighbours.
    void find(int pass, int z) {
        const int w = ground_.width;
        float* e = excess(pass, z);
        if (!inner(z)) {
            std::fill_n(e, w, 0.f);
            return;
        }
        standOut(ground_, z, e);
        rowKernels().excess(e + 1, was_.view().row(z) + 1, usable_.row(z + 1) + 2, takers_.view().row(z) + 1, w - 2);
    }
    void share(int pass, int z) {
        rowKernels().shareOut(ground_.row(z), excess(pass, z - 1), excess(pass, z), excess(pass, z + 1),
                              usable_.row(z + 1) + 1, takers_.view().row(z), ground_.width);
    }

    View<float> ground_;
    View<const float> usable_;
    Scratch was_, takers_;  // how far samples stood out; how many neighbours of each may be touched
    std::array<Rooms, kPasses> excess_;
};

// Bands of rows, on several threads. `room` is as large as the ground.
void evenOut(View<float> ground, View<const float> start, View<const float> usable, View<float> room) {
    const int w = ground.width, d = ground.depth;
    if (d <= kRowsPerThread) return Evening(ground, start, usable).run();
    const auto copyRows = [w](View<const float> from, View<float> to) {
        for (int z = 0; z < to.depth; ++z) std::copy_n(from.row(z), w, to.row(z));
    };
    parallelFor(d, kRowsPerThread, [&](int first, int end) {
        const int top = std::max(first - Evening::kReach, 0), rows = std::min(end + Evening::kReach, d) - top;
        const Scratch band(w, rows);
        copyRows(ground.part(0, top, w, rows), band.view());
        Evening(band.view(), start.part(0, top, w, rows), usable.part(0, top, w + 2, rows + 2)).run();
        copyRows(band.view().part(0, first - top, w, end - first), room.part(0, first, w, end - first));
    });
    parallelFor(d, kRowsPerThread, [&](int first, int end) {
        copyRows(room.part(0, first, w, end - first), ground.part(0, first, w, end - first));
    });
}

}  // namespace

void settle(View<float> ground, View<const float> start, View<const float> fallen, View<const float> usable) {
    const int w = ground.width, d = ground.depth;
    const Scratch once(w + 2, d + 2);
    clearBorder(once.view());
    const auto spread = [&](View<const float> load, int z, float* out) {
        rowKernels().spread(out, load.row(z - 1) + 1, load.row(z) + 1, load.row(z + 1) + 1, usable.row(z - 1) + 1,
                            usable.row(z) + 1, usable.row(z + 1) + 1, w);
    };
    parallelFor(d, kRowsPerThread, [&](int first, int end) {
        for (int z = first + 1; z <= end; ++z) spread(fallen, z, once.view().row(z) + 1);
    });
    parallelFor(d, kRowsPerThread, [&](int first, int end) {
        std::vector<float> twice(static_cast<size_t>(w));
        for (int z = first + 1; z <= end; ++z) {
            spread(once.view(), z, twice.data());
            const float* __restrict now = twice.data(), * __restrict before = fallen.row(z) + 1;
            float* __restrict h = ground.row(z - 1);
            for (int x = 0; x < w; ++x) h[x] += now[x] - before[x];
        }
    });
    evenOut(ground, start, usable, once.view().part(1, 1, w, d));
}

}  // namespace jam
