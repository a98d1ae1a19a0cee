#include "patches.h"

#include <algorithm>
#include <cmath>

#include "frustum.h"

namespace jam {

namespace {

class Choice {
public:
    Choice(const Level& level, const HeightPyramid& pyramid, const Camera& camera, double finest,
           std::vector<Patch>& out)
        : level_(level), pyramid_(pyramid), camera_(camera), picture_(camera), finest_(finest), out_(out) {}

    void run() {
        // A node at depth n has two patches a side, so 2 * kQuads << n quads of one sample.
        int top = 0;
        while ((2 * Patch::kQuads << top) < std::max(level_.columns, level_.rows) - 1) ++top;
        if (!visit(top, 0, 0)) add(top, 0, 0, 0, 2);
    }

private:
    double range(int n) const { return finest_ * static_cast<double>(1 << n); }

    // Box of a square of `size` samples; `pyramidLevel` has blocks of that size.
    Box box(int column, int row, int size) const {
        int n = 0;
        while ((HeightPyramid::kBlock << n) < size) ++n;
        n = std::min(n, pyramid_.levels() - 1);
        const int block = HeightPyramid::kBlock << n;
        const HeightSpan s = pyramid_.span(n, std::min(column / block, pyramid_.across(n) - 1),
                                           std::min(row / block, pyramid_.down(n) - 1));
        const double x1 = std::min(column + size, level_.columns - 1), z1 = std::min(row + size, level_.rows - 1);
        return {{level_.originX + column * level_.spacing, s.low, level_.originZ + row * level_.spacing},
                {level_.originX + x1 * level_.spacing, s.high, level_.originZ + z1 * level_.spacing}};
    }

    bool outside(int column, int row) const { return column >= level_.columns - 1 || row >= level_.rows - 1; }

    void add(int n, int column, int row, int first, int end) {
        const int step = 1 << n, size = Patch::kQuads * step;
        for (int k = first; k < end * end; ++k) {
            const int c = column + (k % end) * size, r = row + (k / end) * size;
            if (outside(c, r)) continue;
            const Box b = box(c, r, size);
            if (picture_.meets(b))
                out_.push_back({c, r, step, static_cast<float>(range(n)), static_cast<float>(distanceTo(b, camera_.at)),
                                static_cast<float>(uprightShare(b, camera_.at))});
        }
    }

    // False when the node is too far for its detail, so that its parent draws that quarter.
    bool visit(int n, int column, int row) {
        const int size = 2 * Patch::kQuads << n;
        if (outside(column, row)) return true;
        const Box b = box(column, row, size);
        const double away = distanceTo(b, camera_.at);
        if (away > range(n)) return false;
        if (!picture_.meets(b)) return true;
        if (n == 0 || away > range(n - 1)) {
            add(n, column, row, 0, 2);
            return true;
        }
        for (int k = 0; k < 4; ++k) {
            const int c = column + (k % 2) * size / 2, r = row + (k / 2) * size / 2;
            if (!visit(n - 1, c, r)) add(n, c, r, 0, 1);
        }
        return true;
    }

    const Level& level_;
    const HeightPyramid& pyramid_;
    const Camera& camera_;
    Frustum picture_;
    double finest_;
    std::vector<Patch>& out_;
};

}  // namespace

void choosePatches(const Level& level, const HeightPyramid& pyramid, const Camera& camera, double finestMetres,
                   std::vector<Patch>& out) {
    out.clear();
    Choice(level, pyramid, camera, finestMetres, out).run();
    std::sort(out.begin(), out.end(), [](const Patch& a, const Patch& b) { return a.nearest < b.nearest; });
}

double finestReach(const Level& level, const Camera& camera, double pixels) {
    const double reach = level.spacing / (pixels * camera.metresPerPixel(1));
    // A node must fit between the reach of one mesh and the next, or morphing would have no room.
    return std::max(reach, 2.9 * 2 * Patch::kQuads * level.spacing);
}

}  // namespace jam
