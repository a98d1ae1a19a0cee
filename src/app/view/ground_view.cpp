#include "view/ground_view.h"

#include <cmath>
#include <glm/geometric.hpp>
#include <QApplication>
#include <QElapsedTimer>
#include <QEventLoop>
#include <QMouseEvent>
#include <QPainter>

#include "hands/camera_hands.h"
#include "hands/clip_hand.h"
#include "hands/handles_hand.h"
#include "hands/tape_hand.h"
#include "level/ground.h"
#include "survey/pick.h"
#include "theme.h"
#include "view/over_ground.h"

namespace jam {

namespace {

constexpr int kFenceTickMs = 250;
constexpr int kFlowMs = 120;         // from one picture of moving water to the next
constexpr double kVisitMetres = 32;  // how near one comes to a place that something is wrong with
constexpr int kRestMs = 150;         // rest before refining
constexpr double kDabMs = 18;        // most that the full picture of a dab may take
constexpr int kRetryMs = 30;         // before something is drawn again whose shader was not ready
constexpr int kHoverMs = 60;         // since the last move of the mouse, while one takes it to be moving
constexpr int kYieldMs = 6;          // from one piece that is refined to the next, while the mouse moves
constexpr double kBringMs = 5;       // for bringing ground up to date between two events

}  // namespace

GroundView::GroundView(Workplace& workplace, std::unique_ptr<Surface> surface, QWidget* parent)
    : QWidget(parent), workplace_(workplace), document_(workplace.document), surface_(std::move(surface)),
      travel_(*this) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(320, 240);
    setCursor(Qt::CrossCursor);
    surface_->widget()->setParent(this);
    surface_->paintMarks = [this](QPainter& p) { paintMarks(p); };
    surface_->failed = [this](const Error& e) { emit failed(e); };
    surface_->resized = [this](const QSize& pixels) {
        camera_.width = pixels.width();
        camera_.height = pixels.height();
        refiner_.resize(camera_.width, camera_.height);
        redrawAll();
        moveMark();
        tellMiddle();
    };
    for (QTimer* t : {&frame_, &rest_, &refine_, &bring_, &retry_}) t->setSingleShot(true);
    retry_.setInterval(kRetryMs);
    connect(&retry_, &QTimer::timeout, this, &GroundView::refineSome);
    for (QTimer* t : {&frame_, &refine_, &bring_}) t->setInterval(0);
    rest_.setInterval(kRestMs);
    connect(&bring_, &QTimer::timeout, this, &GroundView::bringSome);
    connect(&frame_, &QTimer::timeout, this, &GroundView::drawFrame);
    connect(&rest_, &QTimer::timeout, this, &GroundView::refineSome);
    connect(&refine_, &QTimer::timeout, this, &GroundView::refineSome);
    connect(&document_, &Document::replaced, this, &GroundView::adoptLevel);
    connect(&document_, &Document::seen, this, &GroundView::notice);
    for (const auto signal : {&Document::looksChanged, &Document::sunTurned})
        connect(&document_, signal, this, &GroundView::refreshAll);
    connect(&document_, &Document::previewChanged, this, &GroundView::moveMark);
    Toolbox& box = workplace.toolbox;
    Standpoint& stand = workplace.standpoint;
    connect(&box, &Toolbox::settingsChanged, this, &GroundView::moveMark);
    connect(&stand, &Standpoint::tapeMoved, this, &GroundView::moveMark);
    // Another tool or station is another moment: what the hand held is let go.
    connect(&box, &Toolbox::toolChanged, this, [this] { letGo(); });
    connect(&stand, &Standpoint::stationChanged, this, [this] { letGo(); });
    for (const auto signal : {&Standpoint::stationChanged, &Standpoint::reliefChosen})
        connect(&stand, signal, this, &GroundView::followRelief);
    // The edge of the fence moves a little while one looks, and nothing else is drawn for it.
    fenceTick_.setInterval(kFenceTickMs);
    connect(&fenceTick_, &QTimer::timeout, this, [this] {
        ++fenceStep_;
        if (isVisible() && !window()->isMinimized()) surface_->widget()->update();
    });
    fenceRest_.setSingleShot(true);
    fenceRest_.setInterval(kRestMs);
    connect(&fenceRest_, &QTimer::timeout, this, [this] {
        fenceEdge_.hide(document_.level(), document_.pyramid(), camera_);
        surface_->widget()->update();
    });
    flow_.setInterval(kFlowMs);
    connect(&flow_, &QTimer::timeout, this, [this] {
        if (!isVisible() || window()->isMinimized() || frame_.isActive()) return;
        sight_.waterTime += kFlowMs * 1e-3f;
        redrawAll();
    });
    for (const auto signal : {&Document::fenceChanged, &Document::replaced})
        connect(&document_, signal, this, &GroundView::followFence);
    connect(&document_, &Document::historyChanged, this, [this] {
        if (fenceEdge_.empty()) return;
        fenceEdge_.follow(document_.level(), true);  // it lies on the ground
        fenceRest_.start();
    });
    connect(&stand, &Standpoint::courseChosen, this, &GroundView::followCourses);
    for (const auto signal :
         {&Document::strataChanged, &Document::replaced, &Document::historyChanged, &Document::previewChanged})
        connect(&document_, signal, this, &GroundView::followCourses);
    connect(&stand, &Standpoint::fenceTintChosen, this, [this, &stand] {
        Sight look = sight_;
        look.hatch = stand.fenceTint();
        setSight(look);
    });
    for (const auto signal : {&Clips::moved, &Clips::heldChanged, &Clips::tried})
        connect(&workplace.clips, signal, this, [this] { surface_->widget()->update(); });
    connect(&workplace.neighbours, &Neighbours::changed, this, [this] {
        ghostsWait_ = true;
        redrawAll();
    });
    connect(&workplace.clips, &Clips::clippingChanged, this, [this] {
        letGo();
        moveMark();
    });
    connect(&stand, &Standpoint::fenceWayChosen, this, [this] {
        letGo();
        moveMark();
    });
    followRelief();
    adoptLevel();
    followFence();
}

void GroundView::setMarks(const QByteArray& owner, std::vector<GroundMark> marks) {
    if (marks.empty() && marks_[owner].empty()) return;
    marks_[owner] = std::move(marks);
    surface_->widget()->update();
}

void GroundView::setReach(std::shared_ptr<const Reach> reach) {
    reach_ = std::move(reach);
    reachWaits_ = true;
    if (sight_.overlay == Overlay::reach) refreshAll();
}

void GroundView::setUnderWater(const UnderWater& under) {
    if (under == sight_.under) return;
    sight_.under = under;
    redrawAll();
}

void GroundView::setFlowing(bool on) {
    if (on == flowing()) return;
    if (on) return flow_.start();
    flow_.stop();
    emit sightChanged();
}

void GroundView::followCourses() {
    courseLinesKnown_ = false;
    if (workplace_.standpoint.coursing()) surface_->widget()->update();
}

const std::vector<GroundView::CourseLine>& GroundView::courseLines() const {
    if (std::exchange(courseLinesKnown_, true)) return courseLines_;
    courseLines_.clear();
    const Level& level = document_.level();
    for (size_t i = 0; i < level.strata.size(); ++i)
        if (const Stratum& s = level.strata[i]; s.leads() && s.visible)
            courseLines_.push_back({s.id, static_cast<int>(s.course->posts.size()), lineOf(level, i)});
    return courseLines_;
}

void GroundView::followFence() {
    if (fenceEdge_.follow(document_.level())) refreshAll();
    if (fenceEdge_.empty()) fenceTick_.stop();
    else fenceTick_.start(), fenceRest_.start();
    surface_->widget()->update();
}

GroundView::~GroundView() {
    letGo();
    // The surface outlives none of the callbacks into this view.
    surface_->paintMarks = nullptr;
    surface_->resized = nullptr;
    surface_->widget()->setParent(nullptr);
}

void GroundView::adoptLevel() {
    letGo();
    fresh_ = true;
    pending_ = {};
    shadeWaits_.reset();
    overview();
}

void GroundView::resizeEvent(QResizeEvent*) { surface_->widget()->setGeometry(rect()); }

void GroundView::setCamera(const Camera& camera) {
    Camera c = camera;
    c.width = camera_.width;
    c.height = camera_.height;
    if (c == camera_) return;
    camera_ = c;
    moving_ = true;
    if (!fenceEdge_.empty()) fenceEdge_.showAll(), fenceRest_.start();
    redrawAll();
    moveMark();
    tellMiddle();
    emit cameraMoved();
}

void GroundView::tellMiddle() {
    workplace_.standpoint.setMiddle(pickGround(document_.strokeGround(), document_.strokePyramid(),
                                               camera_.ray(camera_.width / 2.0 - 0.5, camera_.height / 2.0 - 0.5)));
}

void GroundView::setSight(const Sight& look) {
    if (look == sight_) return;
    sight_ = look;
    refreshAll();
    emit sightChanged();
}

void GroundView::followRelief() {
    const ReliefChoice here = workplace_.standpoint.reliefHere();
    Sight look = sight_;
    look.relief = {here.lift, here.oneTone};
    setSight(look);
}

void GroundView::setFlatLight(bool flat) {
    if (flat == flatLight_) return;
    flatLight_ = flat;
    flatWaits_ = true;
    refreshAll();
}

void GroundView::setShade(const Shade& shade, const TileSet* changed) {
    // Two that wait together have changed where either did.
    const bool everywhere = !changed || (shadeWaits_ && !shadeChanged_);
    if (everywhere) shadeChanged_.reset();
    else shadeChanged_ = shadeWaits_ ? shadeChanged_->joined(*changed) : *changed;
    shadeWaits_ = shade;
    scheduleFrame();
}

double GroundView::metresAcross() const {
    const auto middle = pick(QPointF(width() / 2.0, height() * 0.6));
    const double away = middle ? glm::distance(*middle, camera_.at) : document_.level().width();
    return away * glm::length(camera_.ray(width() * devicePixel(), height() * 0.6 * devicePixel()).along -
                              camera_.ray(0, height() * 0.6 * devicePixel()).along);
}

void GroundView::overview() { setCamera(navigator().overview(camera_)); }
void GroundView::plan() { setCamera(navigator().plan(camera_)); }
void GroundView::centreOnCursor() {
    const auto& at = workplace_.standpoint.cursor();
    if (at) setCamera(navigator().centre(camera_, *at, std::max(40.0, 4.0 * workplace_.toolbox.settings().radius)));
}

void GroundView::visit(const glm::dvec3& at, std::optional<double> yaw) {
    Camera c = camera_;
    if (yaw) c.yaw = *yaw, c.pitch = -25;
    setCamera(navigator().centre(c, at, kVisitMetres));
}

std::optional<glm::dvec3> GroundView::pick(const QPointF& pixel) const {
    const double r = devicePixelRatioF();
    return pickGround(document_.strokeGround(), document_.strokePyramid(),
                      camera_.ray(pixel.x() * r - 0.5, pixel.y() * r - 0.5), 1e9,
                      workplace_.meetsSurface() ? Meet::surface : Meet::ground);
}

// --- drawing ----------------------------------------------------------------------------------------------------

bool GroundView::settled() const {
    return !frame_.isActive() && !rest_.isActive() && !refine_.isActive() && !bring_.isActive() && refiner_.done() &&
           !all_ && !refresh_;
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
    pending_.change.add(news.change);
    pending_.spots.insert(pending_.spots.end(), news.spots.begin(), news.spots.end());
    scheduleFrame();
}

void GroundView::redrawAll() {
    all_ = true;
    refiner_.forget();
    scheduleFrame();
}

void GroundView::refreshAll() {
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
    surface_->makeCurrent();
    const PixelRect whole{0, 0, camera_.width, camera_.height};
    syncRenderer(*r, all_ || fresh_ || refresh_ ? nullptr : &pending_.change);
    bring(*r, touchedGround(document_.level(), pending_.change).grown(2, document_.level().bounds()));
    // Without heights there is nothing to draw; the picture stays as it is until they have come.
    if (!r->drawable()) return markWaits_ ? moveMark() : void();
    const bool everything = all_ || fresh_, refresh = refresh_;
    const std::vector<PixelRect> parts = everything ? std::vector{whole} : partsOf(pending_);
    all_ = fresh_ = refresh_ = false;
    moving_ = std::exchange(moving_, false) || !everything;  // what only flows or has another size need not hurry
    pending_ = {};
    if (refresh && !everything) {
        // The picture stays as it is and is renewed piece by piece, so that nothing flickers.
        refiner_.wait(whole);
        refineSoon();
    }
    for (const PixelRect& part : parts) drawPart(part, everything);
    moving_ = false;
    if (markWaits_ || (!parts.empty() && (document_.stroking() || everything))) moveMark();
}

void GroundView::bringSome() {
    Renderer* r = surface_->renderer();
    if (!r || frame_.isActive()) return;
    surface_->makeCurrent();
    const bool waited = !r->drawable();
    bring(*r, {});
    if (waited && r->drawable()) scheduleFrame();
}

void GroundView::bring(Renderer& r, const TileSet& drawn) {
    TileSet beside;
    r.bring(camera_, sight_, kBringMs).each([&](int, int, const Region& part) {
        if (!drawn.contains(part.x0, part.z0) || !drawn.contains(part.x1 - 1, part.z1 - 1)) beside.add(part);
    });
    if (r.stale()) bring_.start();
    if (!r.drawable()) return;
    for (const Region& spot : beside.spots())
        refiner_.wait(pixelsOf(document_.level(), spot, document_.pyramid().spanOf(spot), camera_));
    if (!refiner_.done() && !rest_.isActive()) refineSoon();
}

// The few rectangles of the picture that a change can show in.
std::vector<PixelRect> GroundView::partsOf(const News& news) const {
    std::vector<PixelRect> parts;
    const auto touch = [](const PixelRect& a, const PixelRect& b) {
        return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
    };
    for (const News::Spot& s : news.spots) {
        PixelRect part = pixelsOf(document_.level(), s.ground, s.heights, camera_);
        if (part.empty()) continue;
        // Rectangles that overlap become one.
        for (bool again = true; again;) {
            again = false;
            for (size_t i = 0; i < parts.size() && !again; ++i)
                if (touch(parts[i], part)) {
                    part = part.joined(parts[i]);
                    parts.erase(parts.begin() + static_cast<ptrdiff_t>(i));
                    again = true;
                }
        }
        parts.push_back(part);
    }
    return parts;
}

void GroundView::drawPart(const PixelRect& part, bool everything) {
    Renderer* r = surface_->renderer();
    const bool quick = r->software() && (everything || refiner_.likely(part) > kDabMs);
    const bool coarse = quick && moving_ && pace_.coarse();
    QElapsedTimer clock;
    clock.start();
    const Finish finish = coarse ? Finish::coarse : quick ? Finish::quick : Finish::full;
    const bool complete = r->draw(camera_, sight_, finish, everything ? nullptr : &part);
    if (coarse) surface_->presentCoarse(part);
    else surface_->present(part);
    if (quick)
        pace_.took(static_cast<double>(clock.nsecsElapsed()) * 1e-6,
                   static_cast<double>(part.width) * part.height / (camera_.width * camera_.height));
    if (!quick && complete) return;
    refiner_.wait(part);
    rest_.start();
}

// While the mouse moves, what it says comes before the next piece, and its mark is shown.
void GroundView::refineSoon() {
    const bool hovering = hovered_.isValid() && hovered_.elapsed() < kHoverMs;
    refine_.start(hovering ? kYieldMs : 0);
}

void GroundView::refineSome() {
    Renderer* r = surface_->renderer();
    if (!r || refiner_.done() || frame_.isActive()) return;
    // What is near comes first: without it pieces would be drawn twice. It lets refining go on.
    if (r->nearStale()) return bring_.start();
    if (travel_.going() || dynamic_cast<const CameraHand*>(hand_.get())) return rest_.start();
    const QPointF near = hover_ ? *hover_ * devicePixel() : QPointF(camera_.width / 2.0, camera_.height / 2.0);
    const PixelRect piece = *refiner_.next(near.x(), near.y());
    QElapsedTimer clock;
    clock.start();
    surface_->makeCurrent();
    const bool complete = r->draw(camera_, sight_, Finish::full, &piece);
    surface_->present(piece);
    refiner_.took(piece, static_cast<double>(clock.nsecsElapsed()) * 1e-6);
    if (!complete) {
        refiner_.wait(piece);
        return retry_.start();
    }
    if (!refiner_.done()) refineSoon();
}

// --- marks over the picture ---------------------------------------------------------------------------------------

void GroundView::moveMark() {
    QRect before = markRect_;
    mark_ = {};
    mirrorLines_ = {};
    markRect_ = {};
    const double per = 1 / devicePixel();
    const Level& level = document_.level();
    const HandlesHand* handles = findHand<HandlesHand>();
    if (workplace_.brushing()) {
        const StrokeSettings settings = workplace_.strokeSettings();
        const std::optional<glm::dvec3> place = handles ? std::optional(handles->at()) : workplace_.standpoint.cursor();
        if (place && !taping_ && !document_.previewing()) {
            glm::dvec3 at = *place;
            at.y = altitudeAt(level, at.x, at.z);
            mark_ = markOf(level, camera_, at, settings);
        }
        mirrorLines_ = mirrorLines(level, camera_, settings.mirror);
        const QRectF b = mark_.bounds() | mirrorLines_.boundingRect();
        markRect_ = QRectF(b.topLeft() * per, b.size() * per).toAlignedRect().adjusted(-4, -4, 4, 4);
    }
    bool wide = !workplace_.standpoint.tape().empty();
    for (const Hand* h = hand_.get(); h; h = h->aside.get()) wide |= h->drawsWide();
    if (wide) markRect_ = rect();
    // A stroke's mark comes with the ground it made, instead of being painted twice.
    markWaits_ = document_.stroking() && frame_.isActive();
    if (markWaits_) return void(markLeft_ |= before);
    before |= std::exchange(markLeft_, QRect());
    // One rectangle is painted far faster than what two make together.
    if (before.intersects(markRect_)) return surface_->widget()->update(before | markRect_);
    surface_->widget()->update(before);
    surface_->widget()->update(markRect_);
}

void GroundView::paintMarks(QPainter& p) {
    p.setRenderHint(QPainter::Antialiasing);
    if (sight_.contours) paintContourLabels(p, *this);
    const double unit = devicePixel();
    const QColor bright = theme().brush;
    p.save();
    p.scale(1 / unit, 1 / unit);
    fenceEdge_.paint(p, camera_, fenceStep_, unit);
    if (!mirrorLines_.isEmpty()) strokeTwice(p, mirrorLines_, 1.4, unit, theme().active.lighter(150), Qt::DashDotLine);
    if (!mark_.edge.isEmpty()) {
        strokeTwice(p, mark_.images, 1.3, unit, bright.darker(115), Qt::SolidLine);
        strokeTwice(p, mark_.half, 1.1, unit, bright, Qt::DashLine);
        strokeTwice(p, mark_.ticks, 1.4, unit, bright, Qt::SolidLine);
        strokeTwice(p, mark_.edge, 1.8, unit, bright, Qt::SolidLine);
    }
    p.restore();
    if (sight_.under.metres == 0) paintGroundMarks(p, *this);
    if (workplace_.standpoint.coursing()) paintCourses(p, *this);
    if (workplace_.clips.clipping()) paintClip(p, *this);
    if (!workplace_.standpoint.tape().empty()) paintTape(p, *this, workplace_.standpoint.tape());
    for (const Hand* h = hand_.get(); h; h = h->aside.get())
        if (!h->done()) h->paint(p);
}

std::optional<QPointF> GroundView::pixelOf(const glm::dvec3& place) const {
    const auto p = camera_.pixel(place);
    if (!p) return std::nullopt;
    return QPointF(p->x, p->y) / devicePixel();
}

}  // namespace jam
