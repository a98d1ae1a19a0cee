#include "view/ground_view.h"

#include <algorithm>
#include <cmath>
#include <glm/geometric.hpp>
#include <QApplication>
#include <QEventLoop>
#include <QTimer>
#include <utility>

#include "level/ground.h"
#include "survey/pick.h"
#include "view/camera_hands.h"

namespace jam {

namespace {

constexpr int kFlowMs = 120;         // from one picture of moving water to the next
constexpr double kVisitMetres = 32;  // how near one comes to a place that something is wrong with

}  // namespace

GroundView::GroundView(Workplace& workplace, std::unique_ptr<Surface> surface, QWidget* parent)
    : QWidget(parent), workplace_(workplace), document_(workplace.document), surface_(std::move(surface)),
      hands_([this] { marks_->moveBrush(); }), travel_(*this) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(320, 240);
    setCursor(Qt::CrossCursor);
    settle();
    presenter().setPasses(kPasses);
    marks_ = new ViewMarks(*this, *surface_->widget());
    document_.on(About::raster, this, &GroundView::adoptLevel);
    connect(&document_, &Document::changed, this, [this](const News& news) {
        if (news.change.samples() && !news.change.raster) notice(news);
    });
    document_.on(About::looks | About::sun, this, &GroundView::refresh);
    Standpoint& stand = workplace.standpoint;
    // Another tool or station is another moment: what the hand held is let go.
    connect(&workplace.toolbox, &Toolbox::toolChanged, this, [this] { letGo(); });
    connect(&stand, &Standpoint::stationChanged, this, [this] { letGo(); });
    for (const auto signal : {&Standpoint::stationChanged, &Standpoint::reliefChosen})
        connect(&stand, signal, this, &GroundView::followRelief);
    connect(&stand, &Standpoint::fenceTintChosen, this, [this, &stand] {
        Sight look = sight();
        look.hatch = stand.fenceTint();
        setSight(look);
    });
    connect(&workplace.clips, &Clips::clippingChanged, this, [this] {
        letGo();
        marks_->moveBrush();
    });
    connect(&stand, &Standpoint::fenceWayChosen, this, [this] {
        letGo();
        marks_->moveBrush();
    });
    connect(&workplace.neighbours, &Neighbours::changed, this, &GroundView::followNeighbours);
    flow_.setInterval(kFlowMs);
    connect(&flow_, &QTimer::timeout, this, [this] {
        if (!isVisible() || window()->isMinimized() || frameWaits()) return;
        Sight look = sight();
        look.waterTime += kFlowMs * 1e-3f;
        presenter().setSightAtOnce(look);
    });
    followRelief();
    followNeighbours();
    adoptLevel();
}

void GroundView::notice(const News& news) {
    marks_->forgetStanding();  // it lies on the ground
    const Change& c = news.change;
    presenter().change(news.change, news.patches,
                       document_.stroking() && c.ground.empty() && c.cover.empty() && c.wash.empty() && c.gaps.empty());
}

void GroundView::refresh() { presenter().refresh(); }

void GroundView::setReach(std::shared_ptr<const Reach> reach) {
    const int stride = reach ? reach->ground->stride : 1;
    presenter().setReach(reach ? std::shared_ptr<const Raster<uint8_t>>(reach, &reach->classes) : nullptr, stride);
}

void GroundView::setUnderWater(const UnderWater& under) {
    if (under == sight().under) return;
    Sight look = sight();
    look.under = under;
    marks_->forgetStanding();
    presenter().setSightAtOnce(look);
}

void GroundView::followNeighbours() {
    const Neighbours& n = workplace_.neighbours;
    Presenter::Strips strips;
    for (int s = 0; s < kLevelSides; ++s)
        if (const auto& beside = n.on(static_cast<Side>(s)); n.ghosts() && beside.trouble.isEmpty())
            strips[static_cast<size_t>(s)] = beside.strip;
    presenter().setGhosts(strips);
}

HandAtWork GroundView::handAtWork() {
    HandAtWork at{document_.stroking(), travel_.going() || dynamic_cast<const CameraHand*>(hands_.get()), {}};
    if (hover_) at.at = glm::dvec2(hover_->x(), hover_->y()) * devicePixel();
    return at;
}

void GroundView::settle() {
    surface_->widget()->setParent(this);
    surface_->setOwner(this);
}

void GroundView::drawBeside(const Error& error) {
    QTimer::singleShot(0, this, [this, error] {
        Result<std::unique_ptr<Surface>> other = makeSurfaceBeside(nullptr);
        if (!other) {
            emit failed(error);
            return;
        }
        std::unique_ptr<Surface> before = std::exchange(surface_, other.take());
        before->setOwner(nullptr);
        before->widget()->setParent(nullptr);
        settle();
        marks_->setCanvas(*surface_->widget());
        presenter().takeOver(before->presenter());
        surface_->widget()->lower();
        surface_->widget()->setGeometry(rect());
        surface_->widget()->show();
        emit trouble(tr("The ground cannot be drawn on the screen directly, and is drawn beside it: %1")
                         .arg(QString::fromStdString(error.sentence())));
    });
}

void GroundView::troubled(const Error& error) { emit trouble(QString::fromStdString(error.sentence())); }

void GroundView::resized(const QSize& pixels) {
    presenter().resize(pixels.width(), pixels.height());
    marks_->moveBrush();
    tellMiddle();
}

QImage GroundView::refinedPicture() {
    while (!settled()) QApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
    return surface_->grab();
}

QImage GroundView::pictureFrom(const Camera& camera) {
    QImage image(camera.width, camera.height, QImage::Format_RGB32);
    Sight plain;
    plain.liveMetres = sight().liveMetres;
    plain.relief = sight().relief;  // or all that is baked would be baked twice
    presenter().drawAside(camera, plain, image.bits());
    return image;
}

void GroundView::setFlowing(bool on) {
    if (on == flowing()) return;
    if (on) return flow_.start();
    flow_.stop();
    emit sightChanged();
}

GroundView::~GroundView() {
    letGo();
    surface_->setOwner(nullptr);
    surface_->widget()->setParent(nullptr);
}

void GroundView::adoptLevel() {
    letGo();
    presenter().adopt();
    overview();
}

void GroundView::resizeEvent(QResizeEvent*) { surface_->widget()->setGeometry(rect()); }

void GroundView::setCamera(const Camera& camera) {
    Camera c = camera;
    const Camera& now = this->camera();
    c.width = now.width, c.height = now.height;
    if (c == now) return;
    presenter().setCamera(c);
    marks_->cameraMoved();
    tellMiddle();
    emit cameraMoved();
}

void GroundView::tellMiddle() {
    workplace_.standpoint.setMiddle(pickGround(document_.strokeGround(), document_.strokePyramid(),
                                               camera().ray(camera().width / 2.0 - 0.5, camera().height / 2.0 - 0.5)));
}

void GroundView::setSight(const Sight& look) {
    if (look == sight()) return;
    marks_->forgetStanding();
    presenter().setSight(look);
    emit sightChanged();
}

void GroundView::followRelief() {
    const ReliefChoice here = workplace_.standpoint.reliefHere();
    Sight look = sight();
    look.relief = {here.lift, here.oneTone};
    setSight(look);
}

void GroundView::setFlatLight(bool flat) {
    if (flat != flatLight()) presenter().setFlatLight(flat);
}

void GroundView::setShade(const Shade& shade, const TileSet* changed) { presenter().setShade(shade, changed); }

double GroundView::metresAcross() const {
    const auto middle = pick(QPointF(width() / 2.0, height() * 0.6));
    const double away = middle ? glm::distance(*middle, camera().at) : document_.level().width();
    return away * glm::length(camera().ray(width() * devicePixel(), height() * 0.6 * devicePixel()).along -
                              camera().ray(0, height() * 0.6 * devicePixel()).along);
}

void GroundView::overview() { setCamera(navigator().overview(camera())); }
void GroundView::plan() { setCamera(navigator().plan(camera())); }
void GroundView::centreOnCursor() {
    const auto& at = workplace_.standpoint.cursor();
    if (at) setCamera(navigator().centre(camera(), *at, std::max(40.0, 4.0 * workplace_.toolbox.settings().radius)));
}

void GroundView::visit(const glm::dvec3& at, std::optional<double> yaw) {
    Camera c = camera();
    if (yaw) c.yaw = *yaw, c.pitch = -25;
    setCamera(navigator().centre(c, at, kVisitMetres));
}

std::optional<glm::dvec3> GroundView::pick(const QPointF& pixel) const {
    const double r = devicePixelRatioF();
    return pickGround(document_.strokeGround(), document_.strokePyramid(),
                      camera().ray(pixel.x() * r - 0.5, pixel.y() * r - 0.5), 1e9,
                      workplace_.meetsSurface() ? Meet::surface : Meet::ground);
}

std::optional<QPointF> GroundView::pixelOf(const glm::dvec3& place) const {
    const auto p = camera().pixel(place);
    if (!p) return std::nullopt;
    return QPointF(p->x, p->y) / devicePixel();
}

}  // namespace jam
