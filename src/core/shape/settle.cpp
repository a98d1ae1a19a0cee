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

constexpr int kPasses = 3;           // of sharing out
constexpr int kBehind = 2;           // rows from one pass to the next, which looks one to both sides and so changes two
constexpr int kReach = 2 * kPasses;  // rows to both sides that decide what is shared out to a row
// How far the first and the last pass are behind the first step; the steps before go down row by row.
constexpr int kFirstPass = 4, kLastPass = kFirstPass + (kPasses - 1) * kBehind;

// The rows that are looked at again soon, in turns, with a sample beside the first and the last that nobody writes.
template <int kept>
class Turns {
public:
    explicit Turns(int width) {
        for (auto& r : rows_) r.assign(static_cast<size_t>(width + 2), 0.f);
    }
    float* row(int z) { return rows_[static_cast<size_t>((z + kept) % kept)].data() + 1; }

private:
    std::array<std::vector<float>, kept> rows_;
};

// A band of rows of what settles, from top to bottom once: each step is a few rows behind the one before, so that
// what it looks at is near at hand. Of columns, what may be touched changes; one beyond it on all sides is looked at,
// and there nothing stands out; of the ground, two. What may not be touched counts for nothing, whatever a row of
// another turn left there.
class Settling {
public:
    // Row z of the ground is rows[z - top].
    Settling(std::vector<float*> rows, int top, View<const float> start, View<const float> fallen,
             View<const float> mask, const Extents& extents)
        : width_(start.width), depth_(start.depth), top_(top), bottom_(top + static_cast<int>(rows.size())),
          rows_(std::move(rows)), start_(start), fallen_(fallen), mask_(mask), extents_(extents),
          twice_(static_cast<size_t>(width_)) {}

    void run() {
        for (int front = top_ - 2; front < bottom_ + kLastPass; ++front) {
            if (front < bottom_ + 2) use(front);
            if (const int z = front - 1; z >= top_ - 1 && z <= bottom_) spreadOnce(z);
            if (holds(front - 2)) spreadTwice(front - 2);
            if (holds(front - 3)) know(front - 3);
            // A row of ground is changed once the excess of the one below it is known.
            for (int pass = 0; pass < kPasses; ++pass) {
                const int z = front - kFirstPass - pass * kBehind;
                if (z < top_ - 1 || z >= bottom_) continue;
                find(pass, z + 1);
                if (z >= top_) share(pass, z);
            }
        }
    }

private:
    bool holds(int z) const { return z >= top_ && z < bottom_; }
    bool inner(int z) const { return z > top_ && z < bottom_ - 1; }
    float* ground(int z) const { return rows_[static_cast<size_t>(z - top_)]; }

    // 1 where a row may be touched, else 0.
    void use(int z) {
        float* __restrict usable = usable_.row(z);
        if (z < 0 || z >= depth_) {
            std::fill_n(usable, width_, 0.f);
            return;
        }
        const float* __restrict mask = mask_.row(z);
        const auto [from, to] = extents_.near(z, 1);
        for (int x = from; x < to; ++x) usable[x] = mask[x] > 0 ? 1.f : 0.f;
    }

    // Columns [x, end) of a row that has fallen, and may have spread once.
    void spread(const float* above, const float* row, const float* below, int z, Extents::Span s, float* out) {
        rowKernels().spread(out + s.x0, above + s.x0, row + s.x0, below + s.x0, usable_.row(z - 1) + s.x0,
                            usable_.row(z) + s.x0, usable_.row(z + 1) + s.x0, s.width());
    }
    const float* fallen(int z) const { return fallen_.row(z + 1) + 1; }
    void spreadOnce(int z) {
        if (z < 0 || z >= depth_) {
            std::fill_n(once_.row(z), width_, 0.f);
            return;
        }
        if (const Extents::Span s = extents_.row(z); !s.empty())
            spread(fallen(z - 1), fallen(z), fallen(z + 1), z, s, once_.row(z));
    }
    void spreadTwice(int z) {
        const Extents::Span s = extents_.row(z);
        if (s.empty()) return;
        spread(once_.row(z - 1), once_.row(z), once_.row(z + 1), z, s, twice_.data());
        const float* __restrict now = twice_.data(), * __restrict before = fallen(z);
        float* __restrict h = ground(z);
        for (int x = s.x0; x < s.x1; ++x) h[x] += now[x] - before[x];
    }

    // Columns of an inner row that are looked at, but for the level's outermost.
    Extents::Span seen(int z) const { return extents_.near(z, 1).clipped(1, width_ - 1); }
    // How far samples of a row stood out, and how many neighbours of each may be touched.
    void know(int z) {
        const float *a = usable_.row(z - 1), *u = usable_.row(z), *b = usable_.row(z + 1);
        float* __restrict t = takers_.row(z);
        const Extents::Span all = extents_.row(z);
        for (int x = all.x0; x < all.x1; ++x)
            t[x] = a[x - 1] + a[x] + a[x + 1] + u[x - 1] + u[x + 1] + b[x - 1] + b[x] + b[x + 1];
        if (!inner(z)) return;
        if (const auto [x, end] = seen(z); x < end)
            rowKernels().standOut(was_.row(z) + x, start_.row(z - 1) + x, start_.row(z) + x, start_.row(z + 1) + x,
                                  end - x);
    }
    // What each sample of a row gives to each of its neighbours.
    void find(int pass, int z) {
        float* e = excess(pass, z);
        if (!inner(z)) {
            std::fill_n(e, width_, 0.f);
            return;
        }
        if (const auto [x, end] = seen(z); x < end)
            rowKernels().excess(e + x, ground(z - 1) + x, ground(z) + x, ground(z + 1) + x, was_.row(z) + x,
                                usable_.row(z) + x, takers_.row(z) + x, end - x);
    }
    void share(int pass, int z) {
        if (const auto [x, end] = extents_.row(z); x < end)
            rowKernels().shareOut(ground(z) + x, excess(pass, z - 1) + x, excess(pass, z) + x, excess(pass, z + 1) + x,
                                  usable_.row(z) + x, takers_.row(z) + x, end - x);
    }
    float* excess(int pass, int z) { return excess_[static_cast<size_t>(pass)].row(z); }

    int width_, depth_, top_, bottom_;
    std::vector<float*> rows_;
    View<const float> start_, fallen_, mask_;
    const Extents& extents_;
    // As many rows as lie between the step that writes one and the last that reads it.
    Turns<kLastPass + 1> usable_{width_};
    Turns<3> once_{width_};
    Turns<kLastPass - 2> was_{width_}, takers_{width_};
    std::array<Turns<3>, kPasses> excess_{Turns<3>(width_), Turns<3>(width_), Turns<3>(width_)};
    std::vector<float> twice_;
};

}  // namespace

void settle(View<float> ground, View<const float> start, View<const float> fallen, View<const float> mask,
            const Extents& extents) {
    // In bands, on several threads. Each works on its rows where they are, and on copies of those around them.
    const int w = ground.width, d = ground.depth, bands = std::max(d / kRowsPerThread, 1);
    const auto from = [&](int band) { return static_cast<int>(static_cast<int64_t>(d) * band / bands); };
    const Scratch copies(w, std::max(2 * kReach * (bands - 1), 1));
    // The copy of a row near where `band` begins.
    const auto copy = [&](int band, int z) {
        return copies.view().row((band - 1) * 2 * kReach + z - from(band) + kReach);
    };
    for (int band = 1; band < bands; ++band)
        for (int z = from(band) - kReach; z < from(band) + kReach; ++z) std::copy_n(ground.row(z), w, copy(band, z));
    parallelFor(bands, 1, [&](int firstBand, int endBand) {
        for (int band = firstBand; band < endBand; ++band) {
            const int first = from(band), end = from(band + 1), top = std::max(first - kReach, 0),
                      bottom = std::min(end + kReach, d);
            std::vector<float*> rows;
            for (int z = top; z < bottom; ++z)
                rows.push_back(z < first ? copy(band, z) : z < end ? ground.row(z) : copy(band + 1, z));
            Settling(std::move(rows), top, start, fallen, mask, extents).run();
        }
    });
}

}  // namespace jam
