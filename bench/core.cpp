// How fast the core is, against baselines measured in the same run on one thread unless the row says otherwise.
#include <fcntl.h>
#include <unistd.h>
#include <atomic>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <queue>
#include <thread>

#ifdef JAM_BENCH_OPENCV
#include <opencv2/imgproc.hpp>
#endif
#include <ImfChannelList.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfOutputFile.h>
#include <ImfThreading.h>

#include "base/parallel.h"
#include "brush/rows.h"
#include "clip/clip.h"
#include "clip/set_down.h"
#include "course/bake.h"
#include "cover/paint.h"
#include "cover/weights.h"
#include "files/disk.h"
#include "files/float_tiff.h"
#include "folder.h"
#include "grid/scratch.h"
#include "journal/journal.h"
#include "level/ground.h"
#include "levels.h"
#include "plain_pick.h"
#include "ratios.h"
#include "shape/crumble.h"
#include "shape/noise_ground.h"
#include "shape/rain_wash.h"
#include "shape/raise.h"
#include "shape/smooth.h"
#include "shape/whole.h"
#include "stroke/stroker.h"
#include "survey/pick.h"
#include "survey/slope.h"
#include "surveys.h"
#include "walk/reach.h"
#include "walk/spots.h"
#include "water/rise.h"
#include "water/water.h"

using namespace jam;
using namespace jam::bench;
using namespace jam::test;

namespace {

// Reads, adds and writes back every sample of a rectangle.
struct Touch {
    explicit Touch(int side) : field(side, side, 1.f) {}
    Raster<float> field;
    void operator()() {
        float* h = field.view().data;
        const long n = static_cast<long>(field.width()) * field.depth();
        for (long i = 0; i < n; ++i) h[i] += 0.001f;
        benchmark::ClobberMemory();
    }
};

// One that fills a raster of 2 R + 1 samples a side.
Dab dabOver(int radius) {
    const double middle = radius;
    return {middle, middle, static_cast<float>(radius), {}, {0, 0, 2 * radius + 1, 2 * radius + 1}};
}

void raiseRows() {
    for (const auto& [radius, goal] : {std::pair{64, 0.28}, {256, 0.40}, {1024, 0.65}}) {
        const int side = 2 * radius + 1;
        auto ground = std::make_shared<Raster<float>>(side, side, 0.f);
        auto touch = std::make_shared<Touch>(side);
        const auto kernel = [ground, radius = radius, side] {
            const Dab dab = dabOver(radius);
            const DabRows rows(dab);
            for (int z = 0; z < side; ++z)
                if (const Region span = rows.span(dab.region, z); !span.empty())
                    rows.raise(span.x0, z, span.width(), 0.01f, ground->view().row(z) + span.x0);
        };
        pair("raise stamp R = " + std::to_string(radius), Goal::atLeast, goal, kernel, [touch] { (*touch)(); });
    }
}

void smoothRows() {
#ifdef JAM_BENCH_OPENCV
    cv::setNumThreads(1);
    for (const auto& [radius, goal] : {std::pair{16, 3.0}, {64, 1.5}, {256, 1.5}}) {
        const int side = 2 * radius + 1;
        auto ground = std::make_shared<Raster<float>>(side + 2, side + 2, 1.f);
        auto out = std::make_shared<Raster<float>>(side, side, 0.f);
        const auto ours = [=, radius = radius] {
            const Dab dab = dabOver(radius);
            const DabRows rows(dab);
            std::vector<float> mask(static_cast<size_t>(side));
            for (int z = 0; z < side; ++z) {
                rows.mask(0, z, side, 0.5f, mask.data());
                rowKernels().smooth(out->view().row(z), ground->view().row(z) + 1, ground->view().row(z + 1) + 1,
                                    ground->view().row(z + 2) + 1, mask.data(), side);
            }
        };
        auto image = std::make_shared<cv::Mat>(side, side, CV_32F, cv::Scalar(1)), mean = std::make_shared<cv::Mat>(),
             weight = std::make_shared<cv::Mat>(side, side, CV_32F, cv::Scalar(0.5)),
             blended = std::make_shared<cv::Mat>();
        const auto theirs = [=] {
            cv::GaussianBlur(*image, *mean, {3, 3}, 0.85);
            *blended = *image + (*mean - *image).mul(*weight);
        };
        pair("smooth stamp, 9 taps, R = " + std::to_string(radius), Goal::atLeast, goal, ours, theirs);
    }
    const float sigma = 16;
    const int side = 513, halo = boxReach(sigma);
    auto wide = std::make_shared<Raster<float>>(side + 2 * halo, side + 2 * halo, 1.f);
    auto out = std::make_shared<Raster<float>>(side, side);
    auto image = std::make_shared<cv::Mat>(side, side, CV_32F, cv::Scalar(1)), mean = std::make_shared<cv::Mat>();
    pair(
        "smooth, large radius, sigma 16", Goal::atLeast, 2.5, [=] { boxMean(wide->view(), halo, sigma, out->view()); },
        [=] {
            cv::GaussianBlur(*image, *mean, {0, 0}, 16);
        });
#endif
}

void paintRows() {
    for (const int layers : {4, 8, 16}) {
        const int radius = 64, side = 2 * radius + 1;
        auto level = std::make_shared<Level>(hillyLevel(257, 257, 5, layers));
        auto planes = std::make_shared<std::vector<Raster<uint8_t>>>(static_cast<size_t>(layers),
                                                                     Raster<uint8_t>(side, side));
        const auto ours = [=] {
            const Dab dab = dabOn(*level, 0, 0, radius, {}, 1);
            paintLayer(*level, dab, 0.01f, level->layers[2].id, 1);
            std::vector<View<uint8_t>> views;
            for (auto& p : *planes) views.push_back(p.view());
            readWeights(*level, dab.region, views);
        };
        auto bytes = std::make_shared<std::vector<Raster<uint8_t>>>(static_cast<size_t>(layers),
                                                                    Raster<uint8_t>(side, side));
        const auto baseline = [=] {
            for (auto& plane : *bytes) {
                uint8_t* b = plane.view().data;
                for (int i = 0; i < side * side; ++i) b[i] = static_cast<uint8_t>(b[i] + 3);
                benchmark::ClobberMemory();
            }
        };
        pair("paint stamp with weights, " + std::to_string(layers) + " layers", Goal::atLeast, 0.10, ours, baseline);
    }
}

void wholeStampRow() {
    auto level = std::make_shared<Level>(hillyLevel(1025, 1025, 5, 4));
    auto pyramid = std::make_shared<HeightPyramid>(*level);
    auto touch = std::make_shared<Touch>(129);
    auto turn = std::make_shared<int>(0);
    pair(
        "one whole stamp R = 64, pyramid included", Goal::atMost, 25,
        [=] {
            pyramid->update(*level, raiseGround(*level, dabOn(*level, 0, 0, 64, {}, 1), ++*turn % 2 ? 0.1f : -0.1f));
        },
        [touch] { (*touch)(); });
}

void pickRow() {
    auto level = std::make_shared<Level>(hillyLevel(4097, 4097, 5, 1));
    auto pyramid = std::make_shared<HeightPyramid>(*level);
    const auto rays = [=] {
        Random random(3);
        std::vector<Ray> list;
        for (int i = 0; i < 200; ++i) {
            Ray ray;
            ray.from = {between(random, -2000, 2000), 150, between(random, -2000, 2000)};
            ray.along = {between(random, -1, 1), between(random, -0.2, -0.02), between(random, -1, 1)};
            list.push_back(ray);
        }
        return list;
    }();
    const auto walk = [=](auto pick) {
        return [=] {
            for (const Ray& r : rays) benchmark::DoNotOptimize(pick(r));
        };
    };
    pair("picking on 4097 x 4097, 200 rays", Goal::atLeast, 10,
         walk([=](const Ray& r) { return pickGround(*level, *pyramid, r); }),
         walk([=](const Ray& r) { return test::pickPlainly(*level, r); }));
}

void savingRows() {
    const int side = 4097;
    auto level = std::make_shared<Level>(hillyLevel(side, side, 5, 1));
    const std::string stem =
        (std::filesystem::temp_directory_path() / ("jamhill-bench-" + std::to_string(::getpid()))).string();
    auto flat = std::make_shared<Raster<float>>(side, side);
    level->strata[0].heights.read(level->bounds(), flat->view());
    const auto ours = [=] {
        AtomicFile file(stem + ".tif");
        if (!file.write(encodeFloatTiff(level->strata[0].heights).take())) std::abort();
        ::rename(file.path().c_str(), (stem + ".tif").c_str());  // no fsync, as the peer has none
    };
    const auto theirs = [=] {
        Imf::setGlobalThreadCount(2);
        Imf::Header header(side, side);
        header.compression() = Imf::ZIP_COMPRESSION;
        header.channels().insert("Y", Imf::Channel(Imf::FLOAT));
        Imf::OutputFile file((stem + ".exr").c_str(), header);
        Imf::FrameBuffer frame;
        frame.insert("Y", Imf::Slice(Imf::FLOAT, reinterpret_cast<char*>(flat->view().data), sizeof(float),
                                     sizeof(float) * side));
        file.setFrameBuffer(frame);
        file.writePixels(side);
    };
    ours();
    theirs();
    pair("saving heights of 4097 x 4097", Goal::atLeast, 4, ours, theirs);
    figure("size of the saved heights, kB", Goal::atMost, 0.8,
           static_cast<double>(std::filesystem::file_size(stem + ".tif")) / 1e3,
           static_cast<double>(std::filesystem::file_size(stem + ".exr")) / 1e3);
}

void threadRow() {
    auto level = std::make_shared<Level>(hillyLevel(4097, 4097, 5, 1));
    auto out = std::make_shared<Raster<float>>(4097, 4097);
    const auto slope = [=](int threads) {
        return [=] {
            const ThreadLimit limit(threads);
            readSlope(*level, level->bounds(), out->view());
        };
    };
    pair("slope of the whole map, two threads to one", Goal::atLeast, 1.8, slope(2), slope(1));
}

void wearRows() {
    constexpr int side = 2049;
    auto from = std::make_shared<Raster<float>>(side, side), to = std::make_shared<Raster<float>>(side, side);
    const Level hills = hillyLevel(side, side, 5, 1);
    readGround(hills, hills.bounds(), from->view());
    const auto copy = [=] {
        std::memcpy(to->view().data, from->view().data, sizeof(float) * side * side);
        benchmark::ClobberMemory();
    };
    pair(
        "thermal erosion, one pass", Goal::atLeast, 0.35,
        [=] {
            for (int z = 1; z < side - 1; ++z)
                rowKernels().crumble(to->view().row(z) + 1, from->view().row(z - 1) + 1, from->view().row(z) + 1,
                                     from->view().row(z + 1) + 1, side - 2, 0.1f, 0.14f, 0.11f);
            benchmark::ClobberMemory();
        },
        copy);
    // Drops visit samples one by one; a pass is as many visits as there are samples.
    constexpr int small = 513;
    auto ground = std::make_shared<Raster<float>>(small, small),
         ones = std::make_shared<Raster<float>>(small, small, 1.f),
         room = std::make_shared<Raster<float>>(small, small);
    for (int z = 0; z < small; ++z) std::copy_n(from->view().row(z), small, ground->view().row(z));
    auto seed = std::make_shared<uint32_t>(0);
    pair(
        "hydraulic erosion, drops, one visit a sample", Goal::atLeast, 0.05,
        [=] {
            rainOn(ground->view(), ones->view(), {0, 0, small, small}, small * small / kDropSteps, ++*seed, 1);
        },
        [=] {
            std::memcpy(room->view().data, ground->view().data, sizeof(float) * small * small);
            benchmark::ClobberMemory();
        });
}

// What the slower brushes cost against the quickest that reads its surroundings.
void stampRows() {
    constexpr int radius = 512;
    const Scratch::Keeping kept;  // as within a stroke
    const auto fresh = [] { return std::make_shared<Level>(hillyLevel(1281, 1281, 5, 1)); };
    const auto smooth = [level = fresh(), kept] {
        smoothGround(*level, dabOn(*level, 0, 0, radius, {}, 1), 0.1f, 0.85f);
    };
    const auto row = [&](const char* name, const std::function<void(Level&, const Dab&)>& stamp) {
        pair(
            std::string(name) + " stamp R = 512, against smooth", Goal::atMost, 4,
            [level = fresh(), stamp, kept] { stamp(*level, dabOn(*level, 0, 0, radius, {}, 1)); }, smooth);
    };
    row("noise", [](Level& l, const Dab& d) { noiseGround(l, d, 0.1f, {}); });
    row("crumble", [](Level& l, const Dab& d) { crumbleGround(l, d, 0.1f, 35); });
    row("rain wash", [](Level& l, const Dab& d) { rainWashGround(l, d, 0.1f, 1); });
}

void cancelRow() {
    const Level level = hillyLevel(4097, 4097, 5, 1);
    double worst = 0;
    for (int k = 0; k < kWholeKinds; ++k) {
        WholeWish wish;
        wish.kind = static_cast<WholeKind>(k);
        wish.years = 1000;
        for (const int delay : {30, 300}) {
            std::atomic<bool> stop{false};
            Context context;
            context.cancel = &stop;
            std::chrono::steady_clock::time_point asked;
            std::thread hand([&] {
                std::this_thread::sleep_for(std::chrono::milliseconds(delay));
                asked = std::chrono::steady_clock::now();
                stop = true;
            });
            const bool cancelled = !reshapeWhole(level, wish, context);
            const auto ended = std::chrono::steady_clock::now();
            hand.join();
            if (cancelled) worst = std::max(worst, std::chrono::duration<double, std::micro>(ended - asked).count());
        }
    }
    figure("longest wait for cancel, 4097 x 4097", Goal::atMost, 1, worst, 200000);
}

// A clip set down on a large level, against reading and writing the same rectangles; and looking through openings.
void clipRows() {
    auto level = std::make_shared<Level>(hillyLevel(2049, 2049, 5, 8));
    level->lowest = -1000, level->highest = 1000;
    const Region box{700, 900, 957, 1157};
    auto clip = std::make_shared<Level>(liftClip(*level, box, "clip").take());
    const auto rewrite = [level, box] {
        Level copy = *level;
        Raster<float> heights(box.width(), box.depth());
        readGround(copy, box, heights.view());
        for (int z = 0; z < box.depth(); ++z)
            for (int x = 0; x < box.width(); ++x) heights.at(x, z) += 1;
        copy.strata[0].heights.write(box, heights.view());
        Raster<uint16_t> cover(box.width(), box.depth());
        for (Layer& l : copy.layers) {
            l.coverage.read(box, cover.view());
            for (int z = 0; z < box.depth(); ++z)
                for (int x = 0; x < box.width(); ++x) cover.at(x, z) ^= 1;
            l.coverage.write(box, cover.view());
        }
        benchmark::DoNotOptimize(copy);
    };
    for (const double turn : {0.0, 33.0}) {
        Placement p;
        p.x = 20, p.z = -30, p.turn = turn;
        pair(
            "clip of 257 x 257, 8 layers, " + std::to_string(static_cast<int>(turn)) + " degrees", Goal::atMost, 30,
            [level, clip, p] { benchmark::DoNotOptimize(setDown(*level, *clip, {p}, {})); }, rewrite);
    }
    auto holed = std::make_shared<Level>(*level);
    Random random(3);
    for (int k = 0; k < 400; ++k) {
        const int c = wholeBetween(random, 10, 2030), r = wholeBetween(random, 10, 2030);
        for (int z = r - 6; z < r + 6; ++z)
            for (int x = c - 6; x < c + 6; ++x) holed->opening.set(x, z, 255);
    }
    auto pyramid = std::make_shared<HeightPyramid>(*level);
    auto rays = std::make_shared<std::vector<Ray>>();
    for (int i = 0; i < 2000; ++i)
        rays->push_back({{between(random, -1000, 1000), 300, between(random, -1000, 1000)},
                         {between(random, -1, 1), -0.3, between(random, -1, 1)}});
    const auto picks = [rays, pyramid](std::shared_ptr<Level> l) {
        return [l, rays, pyramid] {
            for (const Ray& r : *rays) benchmark::DoNotOptimize(pickGround(*l, *pyramid, r));
        };
    };
    pair("picking among 400 openings", Goal::atMost, 1.3, picks(holed), picks(level));
}

// Priority flood as it is written down, with the standard queue.
void fillByQueue(View<const float> ground, View<float> out) {
    const int w = ground.width, d = ground.depth;
    using Open = std::pair<float, int>;
    std::priority_queue<Open, std::vector<Open>, std::greater<>> open;
    std::vector<uint8_t> seen(static_cast<size_t>(w) * static_cast<size_t>(d));
    const auto take = [&](int x, int z, float level) {
        uint8_t& s = seen[static_cast<size_t>(z) * static_cast<size_t>(w) + static_cast<size_t>(x)];
        if (s) return;
        s = 1;
        out.at(x, z) = std::max(ground.at(x, z), level);
        open.push({out.at(x, z), z * w + x});
    };
    for (int x = 0; x < w; ++x) take(x, 0, -1e30f), take(x, d - 1, -1e30f);
    for (int z = 0; z < d; ++z) take(0, z, -1e30f), take(w - 1, z, -1e30f);
    while (!open.empty()) {
        const auto [level, i] = open.top();
        open.pop();
        for (const auto& [dx, dz] : kJoined)
            if (const int x = i % w + dx, z = i / w + dz; x >= 0 && z >= 0 && x < w && z < d) take(x, z, level);
    }
}

// Brims of a whole level, and flooding one.
void waterRows() {
    constexpr int side = 2049;
    auto ground = std::make_shared<Raster<float>>(side, side), out = std::make_shared<Raster<float>>(side, side),
         other = std::make_shared<Raster<float>>(side, side);
    readGround(hillyLevel(side, side, 5, 1), {0, 0, side, side}, ground->view());
    pair(
        "brims of 2049 x 2049 (priority flood)", Goal::atLeast, 1.4,
        [ground, out] { fillToBrim(std::as_const(*ground).view(), out->view()); },
        [ground, other] { fillByQueue(std::as_const(*ground).view(), other->view()); });
    // A lake of half the level in a bowl of 1025 x 1025.
    auto wet = std::make_shared<Level>(hillyLevel(1025, 1025, 5, 4));
    wet->lowest = -200;
    for (int r = 0; r < 1025; ++r)
        for (int c = 0; c < 1025; ++c)
            wet->strata[0].heights.set(
                c, r, 0.2f * wet->strata[0].heights.at(c, r) + static_cast<float>(std::hypot(c - 512, r - 512)) * 0.1f);
    Pool lake;
    lake.name = "lake";
    lake.height = 40;
    if (addPool(*wet, lake)) refillWater(*wet);
    // Flooding as many samples as are copied.
    auto room = std::make_shared<Raster<float>>(1025, 1025);
    pair(
        "flooding half of 1025 x 1025, against reading it", Goal::atMost, 6,
        [wet] {
            Level l = *wet;
            refillWater(l);
            benchmark::DoNotOptimize(l);
        },
        [wet, room] {
            readGround(*wet, wet->bounds(), room->view());
            benchmark::ClobberMemory();
        });
}

// Connected ground, against the same by OpenCV, on hills and on ground that is broken at every sample; and all of
// reach there with eight spots, against a second.
void walkRows() {
    for (const bool broken : {false, true}) {
        auto ground = std::make_shared<Level>(hillyLevel(1025, 1025, 5, 1));
        Random random(4);
        for (int r = 0; r < 1025; ++r)
            for (int c = 0; c < 1025; ++c) {
                const float h = ground->strata[0].heights.at(c, r), rough = static_cast<float>(between(random, 0, 0.8));
                ground->strata[0].heights.set(c, r, broken ? 1.6f * h + rough : 0.5f * h);
            }
        ground->lowest = -500, ground->highest = 500;
        for (int i = 0; i < 8; ++i) {
            Spot s;
            s.name = "spot " + std::to_string(i);
            s.kind = i % 2 ? "goal" : "start";
            s.x = between(random, -500, 500), s.z = between(random, -500, 500);
            if (!addSpot(*ground, s)) std::abort();
        }
        const std::string name = broken ? "broken ground" : "hills";
        const Reach known = surveyReach(*ground, kBodies[0]);
        double firm = 0;
        for (int r = 0; r < 1025; ++r)
            for (int c = 0; c < 1025; ++c) firm += known.ground->kinds.at(c, r) == ReachGround::kFirm;
        std::printf("(%s: %.0f %% of the samples can be stood on, in %u pieces)\n", name.c_str(),
                    100 * firm / (1025 * 1025), known.ground->pieces);
#ifdef JAM_BENCH_OPENCV
        auto cells = std::make_shared<Raster<uint8_t>>(known.ground->cells);
        auto pieces = std::make_shared<Raster<uint32_t>>(1025, 1025);
        auto mask = std::make_shared<cv::Mat>(1025, 1025, CV_8U), labels = std::make_shared<cv::Mat>();
        for (int r = 0; r < 1025; ++r)
            for (int c = 0; c < 1025; ++c) mask->at<uint8_t>(r, c) = known.ground->kinds.at(c, r) == ReachGround::kFirm;
        cv::setNumThreads(1);
        pair(
            "connected ground of 1025 x 1025, " + name, Goal::atLeast, 4,
            [cells, pieces] { benchmark::DoNotOptimize(connectedGround(*cells, *pieces)); },
            [mask, labels] { cv::connectedComponents(*mask, *labels, 8, CV_32S); });
#endif
        double worst = 0;
        for (const Body& body : kBodies) {
            const auto start = std::chrono::steady_clock::now();
            benchmark::DoNotOptimize(surveyReach(*ground, body));
            worst = std::max(
                worst, std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count());
        }
        figure("reach of 1025 x 1025, ms, worst body, " + name, Goal::atMost, 0.85, worst, 1000);
    }
}

// A stroke into the journal, against writing the samples of its tiles behind each other, each reaching the disk.
void journalRow() {
    auto level = std::make_shared<Level>(hillyLevel(1025, 1025, 7, 4));
    auto folder = std::make_shared<Folder>();
    auto journal = std::make_shared<Journal>(folder->path / "state", "", "", 1, *level, nullptr);
    Stroke stroke;
    stroke.settings.radius = 64;
    stroke.points = {{10, -30, 1, 0}, {60, -10, 1, 0.4}};
    auto after = std::make_shared<Level>(*level);
    if (!runStroke(*after, stroke)) std::abort();
    TileSet tiles;
    after->strata[0].heights.eachChangedTile(
        level->strata[0].heights, [&](int tx, int tz) { tiles.add(after->strata[0].heights.tileRegion(tx, tz)); });
    auto bytes = std::make_shared<std::vector<uint8_t>>(tiles.tiles() * sizeof(TiledGrid<float>::Tile), uint8_t{7});
    journal->record(2, "Raise", *after);
    if (!journal->settle()) std::abort();
    auto serial = std::make_shared<uint64_t>(2);
    const int fd = ::open((folder->path / "raw").c_str(), O_WRONLY | O_CREAT | O_APPEND, 0600);
    pair(
        "a stroke of R = 64 into the journal", Goal::atMost, 3,
        [=] {
            ++*serial;
            journal->record(*serial, "Raise", *serial % 2 ? *level : *after);
            if (!journal->settle()) std::abort();
        },
        [=] {
            if (::write(fd, bytes->data(), bytes->size()) < 0 || ::fdatasync(fd) != 0) std::abort();
            (void)folder;
        });
}

// Courses that all cross each other, with the post of the lowest one moved, against one alone, so many times.
void courseRow() {
    constexpr int kCourses = 24;
    const auto crossing = [](int count) {
        auto level = std::make_shared<Level>(hillyLevel(1025, 1025, 9, 2));
        for (int i = 0; i < count; ++i) {
            const double a = 3.14159265 * i / kCourses, x = 400 * std::cos(a), z = 400 * std::sin(a);
            Course c;
            for (const double far : {-1.0, -0.4, 0.4, 1.0}) {
                Post p;
                p.x = far * x, p.z = far * z;
                c.posts.push_back(p);
            }
            addCourse(*level, "course " + std::to_string(i), c);
        }
        return level;
    };
    const auto moved = [](std::shared_ptr<Level> level) {
        return [level] {
            Level next = *level;
            next.strata[1].course->posts[1].x += 3;
            Change change;
            change.strata = {next.strata[1].id};
            benchmark::DoNotOptimize(refreshCourses(next, change));
        };
    };
    pair("24 courses that cross, a post moved", Goal::atMost, 1.5 * kCourses, moved(crossing(kCourses)),
         moved(crossing(1)));
}

}  // namespace

int main(int count, char** words) {
    const Scratch::Keeping keeping;  // as while a stroke lives
    std::printf("row kernels: %s\n", rowKernels().name);
    raiseRows();
    smoothRows();
    paintRows();
    wholeStampRow();
    pickRow();
    savingRows();
    threadRow();
    surveyRows();
    wearRows();
    stampRows();
    clipRows();
    waterRows();
    walkRows();
    journalRow();
    courseRow();
    cancelRow();
    return run(count, words);
}
