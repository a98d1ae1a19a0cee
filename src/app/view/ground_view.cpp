#include "view/ground_view.h"

#include <algorithm>
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
#include "looks/theme.h"
#include "survey/pick.h"
#include "view/over_ground.h"

namespace jam {

namespace {

constexpr int kFenceTickMs = 250;
constexpr int kFlowMs = 120;         // from one picture of moving water to the next
constexpr double kVisitMetres = 32;  // how near one comes to a place that something is wrong with
constexpr int kRestMs = 150;         // rest before refining
constexpr int kFollowMs = 80;        // before what follows a dab is drawn without another
constexpr int kRetryMs = 30;         // before something is drawn again whose shader was not ready

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
    for (QTimer* t : {&frame_, &follow_, &rest_, &refine_, &bring_, &retry_}) t->setSingleShot(true);
    follow_.setInterval(kFollowMs);
    connect(&follow_, &QTimer::timeout, this, &GroundView::scheduleFrame);
    retry_.setInterval(kRetryMs);
    connect(&retry_, &QTimer::timeout, this, &GroundView::refineSome);
    for (QTimer* t : {&frame_, &refine_, &bring_}) t->setInterval(0);
    rest_.setInterval(kRestMs);
    connect(&bring_, &QTimer::timeout, this, &GroundView::bringSome);
    connect(&frame_, &QTimer::timeout, this, &GroundView::drawFrame);
    connect(&rest_, &QTimer::timeout, this, &GroundView::refineSome);
    connect(&refine_, &QTimer::timeout, this, &GroundView::refineSome);
    document_.on(About::raster, this, &GroundView::adoptLevel);
    connect(&document_, &Document::changed, this, [this](const News& news) {
        if (news.change.samples() && !news.change.raster) notice(news);
    });
    document_.on(About::looks | About::sun, this, &GroundView::refreshAll);
    document_.on(About::preview, this, &GroundView::moveMark);
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
    document_.on(About::fence, this, &GroundView::followFence);
    document_.on(About::history, this, [this] {
        if (fenceEdge_.empty()) return;
        fenceEdge_.follow(document_.level(), true);  // it lies on the ground
        fenceRest_.start();
    });
    connect(&themeChanges(), &ThemeChanges::changed, this, [this] {
        standing_.forget();
        surface_->widget()->update();
    });
    connect(&stand, &Standpoint::courseChosen, this, &GroundView::followCourses);
    document_.on(About::strata | About::history | About::preview, this, &GroundView::followCourses);
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
    standing_.forget();
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
    standing_.forget();
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
    standing_.forget();
    surface_->widget()->update();
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
    seen_.forget();
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
    if (camera_.turnsInto(c)) rememberPicture();
    camera_ = c;
    moved_.start();
    moving_ = true;
    if (!fenceEdge_.empty()) fenceEdge_.showAll(), fenceRest_.start();
    if (seen_.holds(camera_, sight_)) redrawTurned();
    else redrawAll();
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
    standing_.forget();
    refiner_.forget();  // another look takes another time
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

void GroundView::paintStanding(QPainter& p) const {
    if (sight_.contours) paintContourLabels(p, *this);
    if (sight_.under.metres == 0) paintGroundMarks(p, *this);
    if (workplace_.standpoint.coursing()) paintCourses(p, *this);
}

void GroundView::paintMarks(QPainter& p) {
    p.setRenderHint(QPainter::Antialiasing);
    const bool marked = std::any_of(marks_.begin(), marks_.end(), [](const auto& m) { return !m.second.empty(); });
    if (sight_.contours || marked || workplace_.standpoint.coursing())
        standing_.paint(p, size(), camera_, [this](QPainter& q) { paintStanding(q); });
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
