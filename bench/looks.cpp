// How right the picture at rest is: against the mean of many pictures that are each shifted by part of a pixel, which
// nobody sees as noise or smear; whether rings lie round the eye; whether a layer keeps its tone with distance; and
// whether a hill is seen as one.
// usage: bench_looks LAYERS [LEVEL] [--layer NAME]... [--pictures FOLDER]
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <vector>

#include "files/layer_set.h"
#include "files/level_file.h"
#include "files/png.h"
#include "level/ground.h"
#include "offscreen_gl.h"
#include "render/software/pixel_renderer.h"

using namespace jam;

namespace {

constexpr int kWidth = 480, kHeight = 320, kTruth = 64;
constexpr double kHigh[] = {1.8, 6, 30, 120, 400}, kPitch[] = {-6, -12, -24, -35, -48}, kYaw[] = {20, 140, 260};

// A picture as sums of so many passes, channel by channel, of 255 each.
struct Picture {
    std::vector<double> sums = std::vector<double>(static_cast<size_t>(kWidth) * kHeight * 3);
    int passes = 0;

    double light(int x, int y) const {
        const double* p = &sums[static_cast<size_t>(y * kWidth + x) * 3];
        return (0.2126 * p[0] + 0.7152 * p[1] + 0.0722 * p[2]) / passes;
    }
    double colour(int x, int y, int c) const {
        return sums[static_cast<size_t>(y * kWidth + x) * 3 + static_cast<size_t>(c)] / passes;
    }
};

class Looker {
public:
    Looker(PixelRenderer& r, const Level& level) : r_(r), level_(level), pyramid_(level) {
        r_.scene().sync(level_, pyramid_);
    }

    void add(Picture& to, const Camera& c, const Pass& pass) {
        r_.scene().bring(c, sight_);
        r_.draw(c, sight_, Finish::full, nullptr, pass);
        r_.read({0, 0, kWidth, kHeight}, pixels_.data(), kWidth * 4);
        for (size_t i = 0; i < to.sums.size() / 3; ++i)
            for (size_t k = 0; k < 3; ++k) to.sums[3 * i + k] += pixels_[4 * i + 2 - k];
        ++to.passes;
    }
    // So many passes, the first of them number `from`.
    Picture mean(const Camera& c, int passes, int from = 0, double shift = 0) {
        Picture p;
        for (int k = 0; k < passes; ++k) {
            Pass pass = passOf(from + k);
            pass.shiftX += static_cast<float>(shift), pass.shiftY += static_cast<float>(shift);
            add(p, c, pass);
        }
        return p;
    }
    Camera eye(double high, double pitch, double yaw) const {
        Camera c;
        c.width = kWidth, c.height = kHeight;
        c.pitch = pitch, c.yaw = yaw;
        // What is looked at lies in the middle of the level.
        const double back = std::min(high / std::tan(-pitch * M_PI / 180), 0.4 * level_.width());
        const glm::dvec3 looks = c.forward();
        const glm::dvec2 flat = glm::normalize(glm::dvec2(looks.x, looks.z));
        const double x = level_.originX + level_.width() / 2 - flat.x * back,
                     z = level_.originZ + level_.depth() / 2 - flat.y * back;
        c.at = {x, altitudeAt(level_, x, z) + high, z};
        return c;
    }
    const Level& level() const { return level_; }

private:
    PixelRenderer& r_;
    const Level& level_;
    const HeightPyramid pyramid_;
    const Sight sight_ = [] {
        Sight s;
        s.relief.lift = kUsualLift;
        return s;
    }();
    std::vector<uint8_t> pixels_ = std::vector<uint8_t>(static_cast<size_t>(kWidth) * kHeight * 4);
};

struct Apart {
    double all, block;  // root mean square as a share of the mean; the same in the worst of 16 x 16 pixels
};
Apart apart(const Picture& a, const Picture& b) {
    double squares = 0, sum = 0, worst = 0;
    for (int by = 0; by + 16 <= kHeight; by += 16)
        for (int bx = 0; bx + 16 <= kWidth; bx += 16) {
            double s = 0, m = 0;
            for (int y = by; y < by + 16; ++y)
                for (int x = bx; x < bx + 16; ++x) {
                    const double d = a.light(x, y) - b.light(x, y);
                    s += d * d, m += b.light(x, y);
                }
            squares += s, sum += m;
            worst = std::max(worst, std::sqrt(s / 256) / std::max(m / 256, 1.0));
        }
    const double n = (kHeight / 16) * (kWidth / 16) * 256.0;
    return {std::sqrt(squares / n) / (sum / n), worst};
}

// The picture as it lies when the camera's picture lies `by` pixels farther right and down: cubic between pixels, so
// that what is left of a difference is what changes and not what moves.
Picture moved(const Picture& p, double by) {
    const double t = 1 - by;
    const double w[4] = {((-0.5 * t + 1) * t - 0.5) * t, (1.5 * t - 2.5) * t * t + 1, ((-1.5 * t + 2) * t + 0.5) * t,
                         (0.5 * t - 0.5) * t * t};
    const auto along = [&](const std::vector<double>& in, int stepX, int stepY) {
        std::vector<double> out = in;
        for (int y = 2; y < kHeight - 2; ++y)
            for (int x = 2; x < kWidth - 2; ++x)
                for (size_t c = 0; c < 3; ++c) {
                    double s = 0;
                    for (int i = 0; i < 4; ++i)
                        s += w[i] *
                             in[static_cast<size_t>((y + (i - 2) * stepY) * kWidth + x + (i - 2) * stepX) * 3 + c];
                    out[static_cast<size_t>(y * kWidth + x) * 3 + c] = s;
                }
        return out;
    };
    Picture q;
    q.passes = p.passes;
    q.sums = along(along(p.sums, 1, 0), 0, 1);
    return q;
}

// Root mean square of what is finer than a Gauss of two pixels, as a share of the mean, in each band of eight rows that
// shows ground alone.
std::vector<double> bandsOf(const Picture& p, const Camera& c, const Level& level) {
    constexpr int kReach = 5;
    double weights[2 * kReach + 1], total = 0;
    for (int i = -kReach; i <= kReach; ++i) total += weights[i + kReach] = std::exp(-i * i / 8.0);
    std::vector<double> across(static_cast<size_t>(kWidth) * kHeight);
    for (int y = 0; y < kHeight; ++y)
        for (int x = kReach; x < kWidth - kReach; ++x) {
            double s = 0;
            for (int i = -kReach; i <= kReach; ++i) s += weights[i + kReach] * p.light(x + i, y);
            across[static_cast<size_t>(y * kWidth + x)] = s / total;
        }
    std::vector<double> bands;
    for (int top = kReach; top + 8 + kReach < kHeight; top += 8) {
        bool ground = true;
        for (const int x : {kReach, kWidth / 2, kWidth - kReach})
            for (const int y : {top - kReach, top + 8 + kReach}) {
                const Ray r = c.ray(x, y);
                const double far = r.along.y < 0 ? -(c.at.y - level.startHeight) / r.along.y : -1;
                ground = ground && far > 0 && level.holds(c.at.x + far * r.along.x, c.at.z + far * r.along.z);
            }
        if (!ground) continue;
        double squares = 0, sum = 0;
        int n = 0;
        for (int y = top; y < top + 8; ++y)
            for (int x = kReach; x < kWidth - kReach; ++x, ++n) {
                double s = 0;
                for (int i = -kReach; i <= kReach; ++i)
                    s += weights[i + kReach] * across[static_cast<size_t>((y + i) * kWidth + x)];
                const double d = p.light(x, y) - s / total;
                squares += d * d, sum += p.light(x, y);
            }
        bands.push_back(std::sqrt(squares / n) / (sum / n));
    }
    return bands;
}

struct Range {
    double least = 1e9, most = 0;
    void add(double v) { least = std::min(least, v), most = std::max(most, v); }
};

struct Row {
    double rest4 = 0, rest4Block = 0, rest16 = 0, rest16Block = 0, sparkle1 = 0, sparkle16 = 0;
    Range nearer;  // contrast of a band against that of the next farther one
    double tone = 0, hill = 0;
};

void keep(const Picture& p, const std::filesystem::path& file) {
    Pixels out{kWidth, kHeight, 3, 8, {}};
    for (const double s : p.sums) out.samples.push_back(static_cast<uint16_t>(std::lround(s / p.passes)));
    const Bytes png = encodePng(out);
    AtomicFile f(file);
    (void)f.write(png), (void)f.commit();
}

void look(Looker& looker, Row& row, bool flat, const std::string& pictures) {
    for (size_t h = 0; h < std::size(kHigh); ++h) {
        const Camera c = looker.eye(kHigh[h], kPitch[h], kYaw[h % std::size(kYaw)]);
        const Picture truth = looker.mean(c, kTruth, kPasses + 1), first = looker.mean(c, 1),
                      four = looker.mean(c, 4, 1), sixteen = looker.mean(c, 16, 1);
        const Apart a4 = apart(four, truth), a16 = apart(sixteen, truth);
        if (std::getenv("JAMHILL_EACH"))
            std::printf("  %5.1f m: 4 %.1f %.1f, 16 %.1f %.1f, sparkle %.1f %.1f\n", kHigh[h], 100 * a4.all,
                        100 * a4.block, 100 * a16.all, 100 * a16.block,
                        100 * apart(moved(first, 0.37), looker.mean(c, 1, 0, 0.37)).all,
                        100 * apart(moved(sixteen, 0.37), looker.mean(c, 16, 1, 0.37)).all);
        row.rest4 = std::max(row.rest4, a4.all), row.rest4Block = std::max(row.rest4Block, a4.block);
        row.rest16 = std::max(row.rest16, a16.all), row.rest16Block = std::max(row.rest16Block, a16.block);
        row.sparkle1 = std::max(row.sparkle1, apart(moved(first, 0.37), looker.mean(c, 1, 0, 0.37)).all);
        row.sparkle16 = std::max(row.sparkle16, apart(moved(sixteen, 0.37), looker.mean(c, 16, 1, 0.37)).all);
        if (flat) {
            const std::vector<double> bands = bandsOf(sixteen, c, looker.level());
            if (std::getenv("JAMHILL_EACH"))
                for (size_t i = 0; i < bands.size(); ++i) std::printf(" %.1f", 100 * bands[i]);
            for (size_t i = 0; i + 1 < bands.size(); ++i) row.nearer.add(bands[i + 1] / bands[i]);
        }
        if (!pictures.empty()) {
            keep(first, pictures + "-" + std::to_string(static_cast<int>(kHigh[h])) + "-first.png");
            keep(sixteen, pictures + "-" + std::to_string(static_cast<int>(kHigh[h])) + "-rest.png");
        }
    }
}

// The mean colour over 64 x 64 pixels at five distances, the farthest of a channel from their mean.
double toneOf(Looker& looker) {
    std::array<std::array<double, 3>, 5> tones{};
    const double far[] = {5, 15, 50, 150, 400};
    for (size_t i = 0; i < 5; ++i) {
        Camera c;
        c.width = kWidth, c.height = kHeight;
        c.pitch = -32, c.yaw = 20;
        c.at = glm::dvec3(7, looker.level().startHeight, -11) - c.forward() * far[i];
        const Picture p = looker.mean(c, 16, 1);
        for (int y = kHeight / 2 - 32; y < kHeight / 2 + 32; ++y)
            for (int x = kWidth / 2 - 32; x < kWidth / 2 + 32; ++x)
                for (size_t k = 0; k < 3; ++k) tones[i][k] += p.colour(x, y, static_cast<int>(k)) / 4096;
    }
    double worst = 0;
    for (size_t k = 0; k < 3; ++k) {
        double mean = 0;
        for (const auto& t : tones) mean += t[k] / 5;
        for (const auto& t : tones) worst = std::max(worst, std::abs(t[k] / mean - 1));
    }
    return worst;
}

// A cone of 5 m on 40 m, seen from 300 m across the light: its lit flank against its shaded one.
double hillOf(PixelRenderer& renderer, Level level, const std::string& pictures) {
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < level.columns; ++x) {
            const double away = std::hypot(level.originX + x * level.spacing, level.originZ + z * level.spacing);
            if (away < 20) level.strata[0].heights.set(x, z, static_cast<float>(5 * (1 - away / 20)));
        }
    level.sun.elevation = 32, level.sun.azimuth = 90;
    Looker looker(renderer, level);
    Camera c;
    c.width = kWidth, c.height = kHeight, c.yaw = 0, c.pitch = -14;
    c.at = glm::dvec3(0, level.startHeight, 0) - c.forward() * 300.0;
    const Picture p = looker.mean(c, 16, 1);
    if (!pictures.empty()) keep(p, pictures + "-hill.png");
    const auto flank = [&](double x) {
        const auto at = c.pixel({x, level.startHeight + 2.5, 0});
        double sum = 0;
        for (int v = -1; v <= 1; ++v)
            for (int u = -3; u <= 3; ++u) sum += p.light(static_cast<int>(at->x) + u, static_cast<int>(at->y) + v);
        return sum;
    };
    return flank(10) / flank(-10);
}

int fail(const std::string& sentence) { return std::fprintf(stderr, "%s\n", sentence.c_str()), 2; }

void print(const std::string& name, const Row& r, bool flat) {
    std::printf("%-16s %5.1f %5.1f %7.1f %5.1f %8.1f %5.1f", name.c_str(), 100 * r.rest4, 100 * r.rest4Block,
                100 * r.rest16, 100 * r.rest16Block, 100 * r.sparkle1, 100 * r.sparkle16);
    if (flat) std::printf("   %5.2f %5.2f %6.1f %7.2f", r.nearer.least, r.nearer.most, 100 * r.tone, r.hill);
    std::printf("\n");
    std::fflush(stdout);
}

}  // namespace

int main(int count, char** words) {
    if (count < 2) return fail("usage: bench_looks LAYERS [LEVEL] [--layer NAME]... [--pictures FOLDER]");
    std::vector<std::string> only;
    std::string pictures, file;
    for (int i = 2; i < count; ++i) {
        if (!std::strcmp(words[i], "--layer") && i + 1 < count) only.emplace_back(words[++i]);
        else if (!std::strcmp(words[i], "--pictures") && i + 1 < count) pictures = words[++i];
        else file = words[i];
    }
    const auto gl = test::OffscreenGl::open();
    if (!gl) return fail("No OpenGL here.");
    Result<std::vector<Layer>> layers = readLayerSet(words[1]);
    if (!layers) return fail(layers.error().sentence());
    auto renderer = PixelRenderer::create();
    if (!renderer) return fail(renderer.error().sentence());
    if (!pictures.empty()) std::filesystem::create_directories(pictures);
    std::printf(
        "from 1.8, 6, 30, 120 and 400 m above, the worst, in %% of the mean light; goals: 3 (6), 1.5 (3); 4, 1; 0.8 to "
        "1.25; 3; 1.25\n\n"
        "%-16s %11s %13s %14s   %11s %6s %7s\n%-16s %5s %5s %7s %5s %8s %5s   %5s %5s\n",
        "", "4 passes", "16 passes", "sparkle", "next band", "tone", "hill", "", "all", "block", "all", "block",
        "first", "16", "least", "most");
    for (const Layer& layer : layers.value()) {
        if (!only.empty() && std::find(only.begin(), only.end(), layer.name) == only.end()) continue;
        NewLevel wish;
        wish.columns = wish.rows = 513;
        Level level = makeLevel(wish).take();
        addLayer(level, layer);
        const std::string kept = pictures.empty() ? "" : pictures + "/" + layer.name;
        Row row;
        {
            Looker looker(*renderer.value(), level);
            look(looker, row, true, kept);
        }
        {
            // What wanders over the ground is another tone at every place.
            Level even = level;
            even.layers[0].look.variation = 0;
            Looker looker(*renderer.value(), even);
            row.tone = toneOf(looker);
        }
        row.hill = hillOf(*renderer.value(), level, kept);
        print(layer.name, row, true);
    }
    if (!file.empty()) {
        const Result<Level> level = loadLevel(file);
        if (!level) return fail(level.error().sentence());
        Looker looker(*renderer.value(), level.value());
        Row row;
        look(looker, row, false, pictures.empty() ? "" : pictures + "/" + level.value().name);
        print(level.value().name.substr(0, 16), row, false);
    }
    return 0;
}
