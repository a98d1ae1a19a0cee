#include "grid/distance.h"

#include <algorithm>

namespace jam {

namespace {

// The lower envelope of the parabolas that stand on a line's samples.
class Envelope {
public:
    explicit Envelope(int longest)
        : line(static_cast<size_t>(longest)), out(line.size()), places_(line.size()), borders_(line.size() + 1) {}

    // Fills `out` from the first n of `line`.
    void work(int n) {
        int k = 0;
        places_[0] = 0;
        borders_[0] = -kFar, borders_[1] = kFar;
        for (int q = 1; q < n; ++q) {
            double s = meet(places_[static_cast<size_t>(k)], q);
            while (s <= borders_[static_cast<size_t>(k)]) s = meet(places_[static_cast<size_t>(--k)], q);
            places_[static_cast<size_t>(++k)] = q;
            borders_[static_cast<size_t>(k)] = s;
            borders_[static_cast<size_t>(k) + 1] = kFar;
        }
        for (int q = 0, i = 0; q < n; ++q) {
            while (borders_[static_cast<size_t>(i) + 1] < q) ++i;
            const int p = places_[static_cast<size_t>(i)];
            out[static_cast<size_t>(q)] =
                static_cast<float>(static_cast<double>(q - p) * (q - p) + line[static_cast<size_t>(p)]);
        }
    }

    std::vector<float> line, out;

private:
    static constexpr double kFar = 1e18;

    // Where the parabolas over p and q cross.
    double meet(int p, int q) const {
        const auto over = [this](int i) { return line[static_cast<size_t>(i)] + static_cast<double>(i) * i; };
        return (over(q) - over(p)) / (2.0 * (q - p));
    }

    std::vector<int> places_;
    std::vector<double> borders_;
};

}  // namespace

void distanceSquares(View<float> squares) {
    Envelope envelope(std::max(squares.width, squares.depth));
    for (int x = 0; x < squares.width; ++x) {
        for (int z = 0; z < squares.depth; ++z) envelope.line[static_cast<size_t>(z)] = squares.at(x, z);
        envelope.work(squares.depth);
        for (int z = 0; z < squares.depth; ++z) squares.at(x, z) = envelope.out[static_cast<size_t>(z)];
    }
    for (int z = 0; z < squares.depth; ++z) {
        std::copy_n(squares.row(z), squares.width, envelope.line.begin());
        envelope.work(squares.width);
        std::copy_n(envelope.out.begin(), squares.width, squares.row(z));
    }
}

}  // namespace jam
