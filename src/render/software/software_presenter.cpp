#include "render/software/software_presenter.h"

#include <numeric>
#include <optional>
#include <utility>

#include "level/ground.h"

namespace jam {

namespace {

constexpr double kDabMs = 10;        // most that the full picture of a dab may take
constexpr double kHoverMs = 60;      // since the last move of the mouse, while one takes it to be moving
constexpr double kDabbedMs = 150;    // since a dab; the next is near, and draws the same pixels
constexpr double kYieldMs = 6;       // from one step of bringing or refining to the next, while the mouse moves
constexpr double kStepMs = 20;       // after which taking over another level is an event of its own
constexpr double kBringMs = 5;       // for bringing ground up to date between two events
constexpr double kFrameBringMs = 2;  // the same before a picture that the hand waits for
constexpr double kRestMs = 150;      // rest before refining
constexpr double kCalmMs = 350;      // without a hand that moves, before the picture is averaged
constexpr int kLeastChange = 1;      // of 255, of a piece, below which more passes change nothing that is seen
constexpr double kRetryMs = 30;      // before something is drawn again whose shader was not ready

}  // namespace

void SoftwarePresenter::resize(int width, int height) {
    picture_.assign(static_cast<size_t>(width) * static_cast<size_t>(height), 0xff808080);
    refiner_.resize(width, height);
    smoother_.resize(width, height);
    average_.resize(width, height);
    pass_ = 0;
    Presenter::resize(width, height);
}

void SoftwarePresenter::setCamera(const Camera& camera) {
    if (camera_.turnsInto(camera)) rememberPicture();
    if (!seen_.holds(camera, sight_)) forgetSeen();
    moved_ = host_.now();
    moving_ = true;
    Presenter::setCamera(camera);
}

// The next step of bringing or refining. While the mouse moves, what it says comes first, and its mark is shown.
void SoftwarePresenter::goOn(Step step) {
    const bool hovering = hovered_ && host_.now() - *hovered_ < kHoverMs;
    start(step, hovering ? kYieldMs : 0);
}

void SoftwarePresenter::hover() {
    hovered_ = host_.now();
    for (const Step step : {Step::refine, Step::bring})
        if (steps_.hurries(step)) goOn(step);
    wake();
}

uint8_t* SoftwarePresenter::pixel(const PixelRect& part) {
    return reinterpret_cast<uint8_t*>(picture_.data() + static_cast<ptrdiff_t>(part.y) * camera_.width + part.x);
}

void SoftwarePresenter::work(Step step, SceneRenderer& scene) {
    if (steps_.waits(Step::frame)) return;  // it brings what these would, and more
    if (step == Step::smooth) return smooth(scene);
    if (step != Step::bring) return refine(scene);
    const bool waited = !scene.drawable();
    bring(scene, {}, kBringMs);
    if (waited && scene.drawable()) start(Step::frame);
}

void SoftwarePresenter::frame(SceneRenderer& scene) {
    const PixelRect whole{0, 0, camera_.width, camera_.height};
    const double begun = host_.now();
    sync(scene);
    // Making room for another level is long enough for one event; the picture comes in the next.
    if (fresh_ && host_.now() - begun > kStepMs) return start(Step::frame);
    const Level& level = host_.level();
    bring(scene, touchedGround(level, pending_).grown(2, level.bounds()), kFrameBringMs);
    // Without heights there is nothing to draw; the picture stays as it is until they have come.
    if (!scene.drawable()) return host_.framed(false);
    const bool everything = all_ || fresh_, refreshed = refresh_, first = fresh_, strokes = host_.hand().strokes;
    const std::vector<PixelRect> parts = everything ? std::vector{whole} : pendingParts();
    all_ = fresh_ = refresh_ = false;
    if (strokes && !parts.empty()) {
        dab_ = std::accumulate(parts.begin(), parts.end(), PixelRect{},
                               [](const PixelRect& all, const PixelRect& p) { return all.joined(p); });
        dabbed_ = host_.now();
    }
    moving_ = moving_ || !everything;  // what only flows or has another size need not hurry
    forgetPending();
    if (refreshed && !everything) {
        // The picture stays as it is and is renewed piece by piece, so that nothing flickers.
        refiner_.wait(whole);
        outdated_ = true;
        goOn(Step::refine);
    }
    if (!everything || !drawTurned())
        for (const PixelRect& part : parts) drawPart(part, everything, first);
    moving_ = false;
    host_.framed(!parts.empty() && (strokes || everything));
}

void SoftwarePresenter::bring(SceneRenderer& scene, const TileSet& drawn, double ms) {
    TileSet beside;
    const TileSet brought = scene.bring(camera_, sight_, ms);
    if (!brought.empty()) seen_.forget();
    brought.each([&](int, int, const Region& part) {
        if (!drawn.contains(part.x0, part.z0) || !drawn.contains(part.x1 - 1, part.z1 - 1)) beside.add(part);
    });
    if (scene.stale()) goOn(Step::bring);
    if (!scene.drawable()) return;
    const Standing stands = scene.standing();
    for (const Region& piece : beside.spots()) {
        // What stands there shows above it and beside it.
        const Level& level = host_.level();
        const Region spot = piece.grown(static_cast<int>(std::ceil(static_cast<double>(stands.aside) / level.spacing)))
                                .clipped(level.bounds());
        HeightSpan span = host_.pyramid().spanOf(spot);
        span.high += stands.up;
        const PixelRect part = pixelsOf(level, spot, span, camera_);
        refiner_.wait(part);
        outdated_ |= !part.empty();
    }
    if (!refiner_.done() && !steps_.waits(Step::rest)) goOn(Step::refine);
}

// The few rectangles of the picture that what changed can show in.
std::vector<PixelRect> SoftwarePresenter::pendingParts() const {
    std::vector<PixelRect> parts;
    for (const ChangedPatch& p : patches_) {
        PixelRect part = pixelsOf(host_.level(), p.ground, p.heights, camera_);
        if (part.empty()) continue;
        // Rectangles that overlap become one.
        for (bool again = true; again;) {
            again = false;
            for (size_t i = 0; i < parts.size() && !again; ++i)
                if (parts[i].meets(part)) {
                    part = part.joined(parts[i]);
                    parts.erase(parts.begin() + static_cast<ptrdiff_t>(i));
                    again = true;
                }
        }
        parts.push_back(part);
    }
    return parts;
}

// What frames take near the ground tells little of what they take from afar.
Pace& SoftwarePresenter::pace() {
    const Level& l = host_.level();
    const glm::dvec3& at = camera_.at;
    const double ground = l.holds(at.x, at.z) ? altitudeAt(l, at.x, at.z) : host_.pyramid().whole().low;
    return at.y - ground > Pace::kAfarMetres ? farPace_ : nearPace_;
}

void SoftwarePresenter::drawPart(const PixelRect& part, bool everything, bool first) {
    const bool quick = everything || refiner_.likely(part) > kDabMs;
    const double begun = host_.now();
    // The first picture of a level comes soon rather than sharp; drawn from memory that nobody touched before, it is
    // slow and tells nothing of the next.
    const double share = static_cast<double>(part.width) * part.height / (camera_.width * camera_.height);
    const Finish finish = !quick    ? Finish::full
                          : first   ? Finish::coarsest
                          : moving_ ? pace().finishOf(everything ? 1 : share)
                                    : Finish::quick;
    seenMore_ = true;
    if (everything) outdated_ = false;
    const bool complete = pixels_->draw(camera_, sight_, finish, everything ? nullptr : &part);
    if (isCoarse(finish)) pixels_->readCoarse(part, pixel(part), bytesPerRow());
    else pixels_->read(part, pixel(part), bytesPerRow());
    drawn(part);
    if (quick && !first) pace().took(finish, host_.now() - begun, share);
    if (!quick && complete) return smoothSoon();
    refiner_.wait(part);
    start(Step::rest, kRestMs);
}

void SoftwarePresenter::smoothSoon() {
    if (passes_ > 0) start(Step::smooth, kCalmMs);
}

void SoftwarePresenter::drawn(const PixelRect& part) {
    average_.forget(part);
    host_.shown(part);
}

void SoftwarePresenter::refine(SceneRenderer& scene) {
    if (refiner_.done()) return;
    // What is near comes first: without it pieces would be drawn twice. It lets refining go on.
    if (scene.nearStale()) return goOn(Step::bring);
    const HandAtWork hand = host_.hand();
    const double now = host_.now();
    // A hand that holds still lets it become sharp.
    if (hand.movesCamera && moved_ && now - *moved_ < kRestMs) return start(Step::rest, kRestMs);
    const glm::dvec2 near = hand.at.value_or(glm::dvec2(camera_.width / 2.0, camera_.height / 2.0));
    // Under a brush that works, pieces would come and go with every dab.
    const bool dabs = hand.strokes && dabbed_ && now - *dabbed_ < kDabbedMs;
    const auto next = refiner_.next(near.x, near.y, dabs ? dab_ : PixelRect{});
    if (!next) return start(Step::retry, kRetryMs);
    const PixelRect piece = *next;
    const bool complete = pixels_->draw(camera_, sight_, Finish::full, &piece);
    pixels_->read(piece, pixel(piece), bytesPerRow());
    drawn(piece);
    seenMore_ = true;
    refiner_.took(piece, host_.now() - now, complete);
    if (!complete) return start(Step::retry, kRetryMs);
    if (!refiner_.done()) return goOn(Step::refine);
    outdated_ = false;
    seen_.forget();  // what is sharp is remembered when it turns
    smoothSoon();
}

void SoftwarePresenter::smooth(SceneRenderer& scene) {
    // Until it is sharp, which begins this again.
    if (!refiner_.done() || scene.stale()) return;
    const HandAtWork hand = host_.hand();
    const double now = host_.now();
    const auto lately = [now](const std::optional<double>& at) { return at && now - *at < kCalmMs; };
    if (hand.movesCamera || hand.strokes || lately(hovered_) || lately(moved_) || lately(dabbed_)) return smoothSoon();
    if (smoother_.done()) {
        pass_ = pass_ % kPasses + 1;
        smoother_.waitWhere([this](const PixelRect& cell) { return average_.wants(cell, passes_); });
        if (smoother_.done()) return void(pass_ = 0);
    }
    const glm::dvec2 near = hand.at.value_or(glm::dvec2(camera_.width / 2.0, camera_.height / 2.0));
    const PixelRect piece = *smoother_.next(near.x, near.y);
    const bool complete = pixels_->draw(camera_, sight_, Finish::full, &piece, passOf(pass_));
    scratch_.resize(static_cast<size_t>(piece.width) * static_cast<size_t>(piece.height));
    auto* bgra = reinterpret_cast<uint8_t*>(scratch_.data());
    pixels_->read(piece, bgra, piece.width * 4);
    smoother_.took(piece, host_.now() - now, complete);
    if (!complete) return start(Step::smooth, kRetryMs);
    if (average_.add(piece, bgra, piece.width * 4, picture_.data()) <= kLeastChange && pass_ > 4)
        average_.finish(piece);
    host_.shown(piece);
    seenMore_ = true;
    start(Step::smooth);
}

// The picture that is shown, before the camera turns; only while it shows the level as it is.
void SoftwarePresenter::rememberPicture() {
    const bool late = outdated_ || all_ || fresh_ || refresh_ || steps_.waits(Step::frame) ||
                      steps_.waits(Step::follow);
    if (picture_.empty() || late || (!seenMore_ && seen_.holds(camera_, sight_))) return;
    seen_.take(camera_, sight_, reinterpret_cast<const uint8_t*>(picture_.data()), bytesPerRow());
    seenMore_ = false;
}

bool SoftwarePresenter::drawTurned() {
    if (!seen_.holds(camera_, sight_)) return false;
    const auto missing = seen_.missing(camera_);
    if (!missing) return seen_.forget(), false;
    for (const Panorama::Glimpse& g : *missing)
        pixels_->drawGlimpse(g.camera, sight_, g.part, reinterpret_cast<uint8_t*>(seen_.room(g)), 4 * g.part.width);
    seen_.show(camera_, reinterpret_cast<uint8_t*>(picture_.data()), bytesPerRow());
    const PixelRect whole{0, 0, camera_.width, camera_.height};
    drawn(whole);
    refiner_.wait(whole);
    start(Step::rest, kRestMs);
    return true;
}

}  // namespace jam
