// Drawing: what is drawn anew and when, quick frames first, refined piece by piece once it rests.
#include <algorithm>
#include <numeric>
#include <QApplication>
#include <QElapsedTimer>
#include <QEventLoop>
#include <utility>

#include "hands/camera_hands.h"
#include "level/ground.h"
#include "view/ground_view.h"

namespace jam {

namespace {

constexpr double kDabMs = 10;        // most that the full picture of a dab may take
constexpr int kHoverMs = 60;         // since the last move of the mouse, while one takes it to be moving
constexpr int kDabbedMs = 150;       // since a dab; the next is near, and draws the same pixels
constexpr int kYieldMs = 6;          // from one step of bringing or refining to the next, while the mouse moves
constexpr int kStepMs = 20;          // after which taking over another level is an event of its own
constexpr double kBringMs = 5;       // for bringing ground up to date between two events
constexpr double kFrameBringMs = 2;  // the same before a picture that the hand waits for

}  // namespace

bool GroundView::settled() const {
    return !frame_.isActive() && !follow_.isActive() && !rest_.isActive() && !refine_.isActive() &&
           !bring_.isActive() && refiner_.done() && !all_ && !refresh_;
}

QImage GroundView::refinedPicture() {
    while (!settled()) QApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
    return surface_->grab();
}

QImage GroundView::pictureFrom(const Camera& camera) {
    QImage image(camera.width, camera.height, QImage::Format_RGB32);
    surface_->makeCurrent();
    Sight plain;
    plain.liveMetres = sight_.liveMetres;
    plain.relief = sight_.relief;  // or all that is baked would be baked twice
    if (Renderer* r = surface_->renderer()) r->drawAside(camera, plain, image.bits());
    return image;
}

void GroundView::notice(const News& news) {
    seen_.forget();
    standing_.forget();  // it lies on the ground
    pending_.change.add(news.change);
    pending_.patches.insert(pending_.patches.end(), news.patches.begin(), news.patches.end());
    // What follows a stroke comes with its next dab, or soon: two pictures would keep the hand waiting.
    const Change& c = news.change;
    const bool follows = document_.stroking() && c.ground.empty() && c.cover.empty() && c.wash.empty() &&
                         c.gaps.empty();
    if (!follows) return scheduleFrame();
    if (!frame_.isActive() && !follow_.isActive()) follow_.start();
}

void GroundView::redrawAll() {
    seen_.forget();
    redrawTurned();
}

void GroundView::redrawTurned() {
    all_ = true;
    refiner_.forget();
    scheduleFrame();
}

void GroundView::refreshAll() {
    seen_.forget();
    refresh_ = true;
    scheduleFrame();
}

void GroundView::syncRenderer(Renderer& r, const Change* hint) {
    r.sync(document_.level(), document_.pyramid(), hint);
    if (std::exchange(flatWaits_, false)) r.setFlatLight(flatLight_);
    if (std::exchange(ghostsWait_, false)) {
        const Neighbours& n = workplace_.neighbours;
        std::array<std::shared_ptr<const Level>, kLevelSides> strips;
        for (int s = 0; s < kLevelSides; ++s)
            if (const auto& beside = n.on(static_cast<Side>(s)); n.ghosts() && beside.trouble.isEmpty())
                strips[static_cast<size_t>(s)] = beside.strip;
        r.setGhosts(strips);
    }
    if (std::exchange(reachWaits_, false))
        r.setReach(reach_ ? std::shared_ptr<const Raster<uint8_t>>(reach_, &reach_->classes) : nullptr,
                   reach_ ? reach_->ground->stride : 1);
    if (shadeWaits_) r.setShade(*shadeWaits_, shadeChanged_ ? &*shadeChanged_ : nullptr);
    shadeWaits_.reset();
    if (r.trouble()) emit trouble(QString::fromStdString(r.trouble()->sentence()));
}

void GroundView::drawFrame() {
    Renderer* r = surface_->renderer();
    if (!r || surface_->widget()->size().isEmpty()) return;
    follow_.stop();
    surface_->makeCurrent();
    const PixelRect whole{0, 0, camera_.width, camera_.height};
    QElapsedTimer clock;
    clock.start();
    syncRenderer(*r, all_ || fresh_ || refresh_ ? nullptr : &pending_.change);
    // Making room for another level is long enough for one event; the picture comes in the next.
    if (fresh_ && clock.elapsed() > kStepMs) return frame_.start();
    bring(*r, touchedGround(document_.level(), pending_.change).grown(2, document_.level().bounds()), kFrameBringMs);
    // Without heights there is nothing to draw; the picture stays as it is until they have come.
    if (!r->drawable()) return markWaits_ ? moveMark() : void();
    const bool everything = all_ || fresh_, refresh = refresh_, first = fresh_;
    const std::vector<PixelRect> parts = everything ? std::vector{whole} : partsOf(pending_);
    all_ = fresh_ = refresh_ = false;
    if (document_.stroking() && !parts.empty()) {
        dab_ = std::accumulate(parts.begin(), parts.end(), PixelRect{},
                               [](const PixelRect& all, const PixelRect& p) { return all.joined(p); });
        dabbed_.start();
    }
    moving_ = std::exchange(moving_, false) || !everything;  // what only flows or has another size need not hurry
    pending_ = {};
    if (refresh && !everything) {
        // The picture stays as it is and is renewed piece by piece, so that nothing flickers.
        refiner_.wait(whole);
        outdated_ = true;
        goOn(refine_);
    }
    if (!everything || !drawTurned(*r))
        for (const PixelRect& part : parts) drawPart(part, everything, first);
    moving_ = false;
    if (markWaits_ || (!parts.empty() && (document_.stroking() || everything))) moveMark();
}

void GroundView::bringSome() {
    Renderer* r = surface_->renderer();
    if (!r || frame_.isActive()) return;
    surface_->makeCurrent();
    const bool waited = !r->drawable();
    bring(*r, {}, kBringMs);
    if (waited && r->drawable()) scheduleFrame();
}

void GroundView::bring(Renderer& r, const TileSet& drawn, double ms) {
    TileSet beside;
    const TileSet brought = r.bring(camera_, sight_, ms);
    if (!brought.empty()) seen_.forget();
    brought.each([&](int, int, const Region& part) {
        if (!drawn.contains(part.x0, part.z0) || !drawn.contains(part.x1 - 1, part.z1 - 1)) beside.add(part);
    });
    if (r.stale()) goOn(bring_);
    if (!r.drawable()) return;
    for (const Region& spot : beside.spots()) {
        const PixelRect part = pixelsOf(document_.level(), spot, document_.pyramid().spanOf(spot), camera_);
        refiner_.wait(part);
        outdated_ |= !part.empty();
    }
    if (!refiner_.done() && !rest_.isActive()) goOn(refine_);
}

// The few rectangles of the picture that a change can show in.
std::vector<PixelRect> GroundView::partsOf(const News& news) const {
    std::vector<PixelRect> parts;
    for (const News::Patch& s : news.patches) {
        PixelRect part = pixelsOf(document_.level(), s.ground, s.heights, camera_);
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
Pace& GroundView::pace() {
    const Level& l = document_.level();
    const glm::dvec3& at = camera_.at;
    const double ground = l.holds(at.x, at.z) ? altitudeAt(l, at.x, at.z) : document_.pyramid().whole().low;
    return at.y - ground > Pace::kAfarMetres ? farPace_ : nearPace_;
}

void GroundView::drawPart(const PixelRect& part, bool everything, bool first) {
    Renderer* r = surface_->renderer();
    const bool quick = r->software() && (everything || refiner_.likely(part) > kDabMs);
    QElapsedTimer clock;
    clock.start();
    // The first picture of a level comes soon rather than sharp; drawn from memory that nobody touched before, it is
    // slow and tells nothing of the next.
    const double share = static_cast<double>(part.width) * part.height / (camera_.width * camera_.height);
    const Finish finish = !quick    ? Finish::full
                          : first   ? Finish::coarsest
                          : moving_ ? pace().finishOf(everything ? 1 : share)
                                    : Finish::quick;
    seenMore_ = true;
    if (everything) outdated_ = false;
    const bool complete = r->draw(camera_, sight_, finish, everything ? nullptr : &part);
    if (isCoarse(finish)) surface_->presentCoarse(part);
    else surface_->present(part);
    if (quick && !first) pace().took(finish, static_cast<double>(clock.nsecsElapsed()) * 1e-6, share);
    if (!quick && complete) return;
    refiner_.wait(part);
    rest_.start();
}

// The next step of bringing or refining. While the mouse moves, what it says comes first, and its mark is shown.
void GroundView::goOn(QTimer& step) {
    const bool hovering = hovered_.isValid() && hovered_.elapsed() < kHoverMs;
    step.start(hovering ? kYieldMs : 0);
}

void GroundView::refineSome() {
    Renderer* r = surface_->renderer();
    if (!r || refiner_.done() || frame_.isActive()) return;
    // What is near comes first: without it pieces would be drawn twice. It lets refining go on.
    if (r->nearStale()) return goOn(bring_);
    // A hand that holds still lets it become sharp.
    if (travel_.going() || (dynamic_cast<const CameraHand*>(hand_.get()) && moved_.elapsed() < rest_.interval()))
        return rest_.start();
    const QPointF near = hover_ ? *hover_ * devicePixel() : QPointF(camera_.width / 2.0, camera_.height / 2.0);
    // Under a brush that works, pieces would come and go with every dab.
    const bool dabs = document_.stroking() && dabbed_.isValid() && dabbed_.elapsed() < kDabbedMs;
    const auto next = refiner_.next(near.x(), near.y(), dabs ? dab_ : PixelRect{});
    if (!next) return retry_.start();
    const PixelRect piece = *next;
    QElapsedTimer clock;
    clock.start();
    surface_->makeCurrent();
    const bool complete = r->draw(camera_, sight_, Finish::full, &piece);
    surface_->present(piece);
    seenMore_ = true;
    refiner_.took(piece, static_cast<double>(clock.nsecsElapsed()) * 1e-6, complete);
    if (!complete) return retry_.start();
    if (!refiner_.done()) return goOn(refine_);
    outdated_ = false;
    seen_.forget();  // what is sharp is remembered when it turns
}

// The picture that is shown, before the camera turns; only while it shows the level as it is.
void GroundView::rememberPicture() {
    const bool late = outdated_ || all_ || fresh_ || refresh_ || frame_.isActive() || follow_.isActive();
    const QImage* shown = surface_->pixels();
    if (!shown || late || (!seenMore_ && seen_.holds(camera_, sight_))) return;
    seen_.take(camera_, sight_, shown->constBits(), static_cast<int>(shown->bytesPerLine()));
    seenMore_ = false;
}

bool GroundView::drawTurned(Renderer& r) {
    QImage* shown = surface_->pixels();
    if (!shown || !seen_.holds(camera_, sight_)) return false;
    const auto missing = seen_.missing(camera_);
    if (!missing) return seen_.forget(), false;
    for (const Panorama::Glimpse& g : *missing)
        r.drawGlimpse(g.camera, sight_, g.part, reinterpret_cast<uint8_t*>(seen_.room(g)), 4 * g.part.width);
    seen_.show(camera_, shown->bits(), static_cast<int>(shown->bytesPerLine()));
    surface_->widget()->update();
    refiner_.wait({0, 0, camera_.width, camera_.height});
    rest_.start();
    return true;
}

}  // namespace jam
