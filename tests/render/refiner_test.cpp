// Refining by pieces: everything is refined once, near the hand first, and no piece takes much longer than it may.
#include "render/software/refiner.h"

#include <catch2/catch.hpp>

#include <cmath>

#include "levels.h"
#include "render/software/pace.h"

using namespace jam;
using namespace jam::test;

namespace {

int area(const PixelRect& r) { return r.width * r.height; }

// What a piece of a picture costs, ms, when the right half is twenty times as dear as the left.
double cost(const PixelRect& p, double dear) {
    double ms = 0.3;
    for (int x = p.x; x < p.x + p.width; ++x) ms += p.height * (x > 500 ? dear : dear / 20) * 1e-3;
    return ms;
}

}  // namespace

TEST_CASE("all of a picture is refined, in pieces that keep to their time") {
    for (const double dear : {0.2, 1.5, 6.0}) {
        Refiner refiner;
        refiner.resize(1018, 578);
        for (int look = 0; look < 3; ++look) {
            std::vector<int> seen(1018 * 578, 0);
            int pieces = 0, late = 0;
            double worst = 0;
            while (const auto piece = refiner.next(620, 300)) {
                REQUIRE_FALSE(piece->empty());
                REQUIRE(piece->x + piece->width <= 1018);
                REQUIRE(piece->y + piece->height <= 578);
                for (int y = piece->y; y < piece->y + piece->height; ++y)
                    for (int x = piece->x; x < piece->x + piece->width; ++x) ++seen[static_cast<size_t>(y * 1018 + x)];
                const double ms = cost(*piece, dear),
                             least = cost({piece->x, piece->y, Refiner::kCellWidth, Refiner::kCellHeight}, dear);
                late += ms > 1.5 * std::max(Refiner::kBudgetMs, least);
                worst = std::max(worst, ms / std::max(Refiner::kBudgetMs, least));
                refiner.took(*piece, ms);
                REQUIRE(++pieces < 2000);
            }
            INFO(dear << ", look " << look << ": " << pieces << " pieces, worst " << worst << " budgets");
            CHECK(refiner.done());
            CHECK(std::all_of(seen.begin(), seen.end(), [](int n) { return n >= 1; }));
            // Where the dear half begins cannot be known beforehand, but it is learnt at once.
            CHECK(late <= 6);
            if (look == 2) CHECK(late == 0);
            if (look == 1) refiner.wait({0, 0, 1018, 578});  // the same view again: everything is known
            else refiner.forget(), refiner.wait({0, 0, 1018, 578});
        }
    }
}

TEST_CASE("what lies under the hand comes first, and a part that changed is refined alone") {
    Refiner refiner;
    refiner.resize(800, 600);
    const auto first = refiner.next(710, 90);
    REQUIRE(first);
    CHECK(first->x <= 710);
    CHECK(first->x + first->width > 710);
    CHECK(first->y <= 90);
    CHECK(first->y + first->height > 90);
    while (const auto piece = refiner.next(0, 0)) refiner.took(*piece, 1);
    refiner.wait({300, 200, 40, 10});
    int pixels = 0;
    while (const auto piece = refiner.next(0, 0)) {
        pixels += piece->width * piece->height;
        refiner.took(*piece, 1);
    }
    CHECK(pixels > 0);
    CHECK(pixels <= 6 * Refiner::kCellWidth * Refiner::kCellHeight);
    CHECK(refiner.likely({300, 200, 40, 10}) > 0);
    refiner.wait({0, 0, 0, 0});
    CHECK(refiner.done());
}

TEST_CASE("every piece lies in two of a driver's squares, but at the picture's sides") {
    Refiner refiner;
    refiner.resize(1018, 578);
    while (const auto piece = refiner.next(400, 300)) {
        const int x1 = piece->x + piece->width;
        if (piece->x > 0 && x1 < 1018) CHECK(piece->x / 64 != (x1 - 1) / 64);
        refiner.took(*piece, 5);
    }
}

TEST_CASE("where others use the machine too, pieces become smaller, and larger again when they do not") {
    Refiner refiner;
    refiner.resize(1018, 578);
    const auto pixels = [&](double slow, int pieces) {
        double last = 0;
        for (int i = 0; i < pieces; ++i) {
            auto piece = refiner.next(500, 300);
            if (!piece) refiner.wait({0, 0, 1018, 578}), piece = refiner.next(500, 300);
            last = area(*piece);
            refiner.took(*piece, Refiner::kPieceMs + slow * last * 1e-3);
        }
        return last;
    };
    const double alone = pixels(0.5, 80), beside = pixels(1.5, 4), later = pixels(0.5, 120);
    CHECK(beside < 0.6 * alone);
    CHECK(later > 0.7 * alone);
}

TEST_CASE("the first piece after the camera moved is small, whatever the view before cost") {
    Refiner refiner;
    refiner.resize(640, 480);
    // A cheap view: pieces grow.
    while (const auto piece = refiner.next(320, 240)) refiner.took(*piece, 0.001);
    refiner.forget();
    refiner.wait({0, 0, 640, 480});
    const auto first = *refiner.next(320, 240);
    CHECK(first.width * first.height <= 64 * 16);
    // It was dear, so the next one is no larger; once the view is known to be cheap they grow again.
    refiner.took(first, 40);
    const auto second = *refiner.next(320, 240);
    CHECK(second.width * second.height <= 64 * 16);
}

TEST_CASE("that a piece was quick tells nothing when it was drawn plainer than it should be") {
    Refiner refiner;
    refiner.resize(640, 480);
    while (const auto piece = refiner.next(320, 240)) refiner.took(*piece, 0.7);  // a cheap view
    refiner.forget();
    refiner.wait({0, 0, 640, 480});
    const PixelRect first = *refiner.next(320, 240);
    // While what it needs is made it is drawn again and again, and grows no larger, even where it takes a little longer
    // than in the view before.
    for (int i = 0; i < 30; ++i) {
        const PixelRect piece = *refiner.next(320, 240);
        CHECK(area(piece) <= area(first));
        refiner.took(piece, i % 2 ? 0.05 : 1.01 * refiner.likely(piece), false);
    }
    refiner.took(first, 1);
    CHECK(area(*refiner.next(320, 240)) > area(first));
    // That it was slow is believed: all of it waits on, in pieces that are smaller.
    while (const auto piece = refiner.next(320, 240)) refiner.took(*piece, 0.7);
    refiner.wait({0, 0, 640, 480});
    const PixelRect large = *refiner.next(320, 240);
    REQUIRE(area(large) > 64 * 64);
    refiner.took(large, 90, false);
    CHECK(refiner.likely(large) > 45);
    const PixelRect next = *refiner.next(320, 240);
    CHECK(area(next) < area(large) / 4);
    int pixels = 0;
    while (const auto piece = refiner.next(320, 240)) pixels += area(*piece), refiner.took(*piece, 7);
    CHECK(pixels >= 640 * 480);
}

TEST_CASE("from afar a moving picture has to be quicker than near the ground") {
    Pace near, afar(Pace::kAfar);
    for (int i = 0; i < 40; ++i)
        for (Pace* p : {&near, &afar}) {
            const double share = p->finish() == Finish::quick ? 1 : p->finish() == Finish::coarse ? 0.6 : 0.45;
            p->took(p->finish(), 12.5 * share, 1);
        }
    CHECK(near.finish() == Finish::quick);
    CHECK(afar.finish() == Finish::coarsest);
    for (int i = 0; i < 60; ++i) afar.took(afar.finish(), 1.5, 1);
    CHECK(afar.finish() == Finish::quick);
}

TEST_CASE("a moving picture is drawn in fewer pixels once it is slow, and in more again only when that is fluid") {
    Pace pace;
    const auto is = [&](Finish f) { return pace.finish() == f; };
    CHECK(is(Finish::quick));
    for (int i = 0; i < 20; ++i) pace.took(Finish::quick, 12, 1);
    CHECK(is(Finish::quick));
    pace.took(Finish::quick, 60, 0.05);  // a small part tells nothing
    CHECK(is(Finish::quick));
    int frames = 0;
    while (is(Finish::quick) && frames < 20) pace.took(Finish::quick, 25, 1), ++frames;
    CHECK(frames <= 4);
    CHECK(is(Finish::coarse));
    // Coarse frames of 15 ms are fluid, and tell of fine ones of about 25, which would not do.
    for (int i = 0; i < 100; ++i) pace.took(Finish::coarse, 15, 1);
    CHECK(is(Finish::coarse));
    // Those of 30 ms are not; in the fewest pixels they take 20, and stay so.
    frames = 0;
    while (!is(Finish::coarsest) && frames < 20) pace.took(Finish::coarse, 30, 1), ++frames;
    CHECK(frames <= 4);
    for (int i = 0; i < 100; ++i) pace.took(Finish::coarsest, 20, 1);
    CHECK(is(Finish::coarsest));
    // A picture that only flows is drawn fine whatever moving ones take, and tells the same.
    for (int i = 0; i < 20; ++i) pace.took(Finish::quick, 44, 1);
    CHECK(is(Finish::coarsest));
    frames = 0;
    while (!is(Finish::coarse) && frames < 200) pace.took(Finish::coarsest, 3, 0.5), ++frames;  // half of it in 3 ms
    CHECK(frames > 3);
    CHECK(frames < 40);
    while (!is(Finish::quick) && frames < 400) pace.took(Finish::coarse, 2.5, 0.5), ++frames;
    CHECK(frames < 80);
    // Even work does not make it change to and fro.
    for (const double fine : {16.0, 26.0, 60.0, 8.0, 11.0, 13.0}) {
        int changes = 0;
        if (fine < 15) pace = Pace(Pace::kAfar);
        for (int i = 0; i < 300; ++i) {
            const Finish was = pace.finish();
            pace.took(was, fine * (was == Finish::coarsest ? 0.45 : was == Finish::coarse ? 0.6 : 1), 1);
            changes += pace.finish() != was;
        }
        CHECK(changes <= 2);
    }
}

TEST_CASE("what a dab changed is drawn in more pixels the smaller it is, and in even work does not change to and fro") {
    Pace pace;
    for (int i = 0; i < 40; ++i) pace.took(Finish::coarsest, 0.45 * 40, 1);
    REQUIRE(pace.finish() == Finish::coarsest);
    CHECK(pace.finishOf(1) == Finish::coarsest);
    CHECK(pace.finishOf(0.9) == Finish::coarsest);
    CHECK(pace.finishOf(0.3) == Finish::coarse);
    CHECK(pace.finishOf(0.1) == Finish::quick);
    // A little more or less is the same to the eye.
    for (const double share : {0.14, 0.2, 0.15, 0.21, 0.1}) CHECK(pace.finishOf(share) == Finish::quick);
    CHECK(pace.finishOf(0.25) == Finish::coarse);
    for (const double share : {0.2, 0.28, 0.18, 0.34}) CHECK(pace.finishOf(share) == Finish::coarse);
    // A large one after small ones does not come late first.
    CHECK(pace.finishOf(0.1) == Finish::quick);
    CHECK(pace.finishOf(0.9) == Finish::coarsest);
    // From afar, where all of a moving picture has to be quicker, a dab has as long as near the ground.
    Pace afar(Pace::kAfar);
    for (int i = 0; i < 40; ++i) afar.took(Finish::coarsest, 0.45 * 20, 1);
    REQUIRE(afar.finish() == Finish::coarsest);
    CHECK(afar.finishOf(0.4) == Finish::quick);
    CHECK(afar.finishOf(0.8) == Finish::coarse);
    // None is coarser than the whole would be.
    for (int i = 0; i < 100; ++i) pace.took(Finish::quick, 9, 1);
    REQUIRE(pace.finish() == Finish::quick);
    CHECK(pace.finishOf(0.95) == Finish::quick);
}

TEST_CASE("pixels that the next dab draws anew are left out, and what lies beside them is refined meanwhile") {
    Refiner refiner;
    refiner.resize(1000, 600);
    const PixelRect dab{410, 205, 160, 90};
    // Whole cells, as they are refined.
    const PixelRect spared{352, 200, 256, 96};
    int pixels = 0;
    for (auto piece = refiner.next(480, 250, dab); piece; piece = refiner.next(480, 250, dab)) {
        CAPTURE(piece->x, piece->y, piece->width, piece->height);
        CHECK_FALSE(piece->meets(spared));
        refiner.took(*piece, 2);
        pixels += area(*piece);
    }
    CHECK(pixels >= 1000 * 600 - area(spared));
    CHECK_FALSE(refiner.done());
    pixels = 0;
    while (const auto piece = refiner.next(480, 250)) {
        pixels += area(*piece);
        refiner.took(*piece, 2);
    }
    CHECK(pixels >= area(spared));
}
