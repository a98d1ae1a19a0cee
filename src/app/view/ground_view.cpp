#include "view/ground_view.h"

#include <QApplication>
#include <QEventLoop>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>
#include <glm/geometric.hpp>

#include "level/ground.h"
#include "theme.h"

namespace jam {

namespace {

constexpr int kTile = 192;          // pixels a side of what is refined at once
constexpr int kRestMs = 150;        // rest before refining
constexpr double kDabMs = 45;       // most that the full picture of a dab may take
constexpr int kStrokeTickMs = 25;   // how often a resting brush goes on

LevelLook lookOf(const Level& level) {
    LevelLook look{level.sun, level.layers, level.pairs};
    for (Layer& l : look.layers) {
        l.coverage = l.base = l.held = {};
        l.rules.clear();
        l.alive = l.locked = false;
        l.name.clear();
    }
    return look;
}

const QSet<int> kTravelKeys = {Qt::Key_W, Qt::Key_A, Qt::Key_S, Qt::Key_D, Qt::Key_Q, Qt::Key_E};

}  // namespace

GroundView::GroundView(Session& session, std::unique_ptr<Surface> surface, QWidget* parent)
    : QWidget(parent), session_(session), surface_(std::move(surface)) {
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
        redrawAll();
        moveMark();
    };
    for (QTimer* t : {&frame_, &rest_, &refine_}) t->setSingleShot(true);
    frame_.setInterval(0);
    rest_.setInterval(kRestMs);
    refine_.setInterval(0);
    strokeTimer_.setInterval(kStrokeTickMs);
    travelTimer_.setInterval(16);
    connect(&frame_, &QTimer::timeout, this, &GroundView::drawFrame);
    connect(&rest_, &QTimer::timeout, this, &GroundView::refineSome);
    connect(&refine_, &QTimer::timeout, this, &GroundView::refineSome);
    connect(&travelTimer_, &QTimer::timeout, this, &GroundView::travel);
    connect(&strokeTimer_, &QTimer::timeout, this, [this] {
        if (const auto at = pick(lastPixel_)) session_.continueStroke(*at, pressure_, strokeClock_.elapsed() / 1000.0);
    });
    connect(&session, &Session::opened, this, &GroundView::adoptLevel);
    connect(&session, &Session::changed, this, &GroundView::notice);
    connect(&session, &Session::edited, this, [this] {
        if (!(lookOf(session_.level()) == drawnLook_)) refreshAll();
    });
    for (const auto signal : {&Session::settingsChanged, &Session::toolChanged, &Session::stationChanged, &Session::tapeMoved}) connect(&session, signal, this, &GroundView::moveMark);
    connect(&session, &Session::stationChanged, this, &GroundView::dropLine);
    adoptLevel();
}

GroundView::~GroundView() {
    // The surface outlives none of the callbacks into this view.
    surface_->paintMarks = nullptr;
    surface_->resized = nullptr;
    surface_->widget()->setParent(nullptr);
}

void GroundView::adoptLevel() {
    fresh_ = true;
    pending_ = {};
    sun_.reset();
    corners_.clear();
    overview();
}

void GroundView::resizeEvent(QResizeEvent*) { surface_->widget()->setGeometry(rect()); }

void GroundView::setCamera(const Camera& camera) {
    Camera c = camera;
    c.width = camera_.width;
    c.height = camera_.height;
    if (c == camera_) return;
    camera_ = c;
    redrawAll();
    moveMark();
    emit cameraMoved();
}

void GroundView::setSight(const Sight& look) {
    if (look == sight_) return;
    sight_ = look;
    refreshAll();
    emit sightChanged();
}

void GroundView::setFlatLight(bool flat) {
    if (flat == flatLight_) return;
    flatLight_ = flat;
    flatWaits_ = true;
    refreshAll();
}

void GroundView::setShade(std::shared_ptr<const Raster<uint8_t>> sun, std::shared_ptr<const Raster<uint8_t>> open) {
    sun_ = std::move(sun);
    open_ = std::move(open);
    shadeWaits_ = true;
    refreshAll();
}

void GroundView::overview() { setCamera(navigator().overview(camera_)); }
void GroundView::plan() { setCamera(navigator().plan(camera_)); }
void GroundView::centreOnCursor() {
    if (session_.cursor()) setCamera(navigator().centre(camera_, *session_.cursor(), std::max(40.0, 4.0 * session_.settings().radius)));
}

std::optional<glm::dvec3> GroundView::pick(const QPointF& pixel) const {
    const double r = devicePixelRatioF();
    return pickGround(session_.strokeGround(), session_.strokePyramid(), camera_.ray(pixel.x() * r - 0.5, pixel.y() * r - 0.5));
}

// --- drawing ----------------------------------------------------------------------------------------------------

bool GroundView::settled() const { return !frame_.isActive() && !rest_.isActive() && !refine_.isActive() && stale_.isEmpty() && !all_ && !refresh_; }

QImage GroundView::refinedPicture() {
    while (!settled()) QApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
    return surface_->grab();
}

QImage GroundView::pictureFrom(const Camera& camera) {
    QImage image(camera.width, camera.height, QImage::Format_RGB32);
    surface_->makeCurrent();
    Sight plain;
    plain.liveMetres = sight_.liveMetres;
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
    scheduleFrame();
}

void GroundView::refreshAll() {
    refresh_ = true;
    scheduleFrame();
}

void GroundView::markStale(const PixelRect& part) {
    const int across = (camera_.width + kTile - 1) / kTile;
    for (int y = part.y / kTile; y <= (part.y + part.height - 1) / kTile; ++y)
        for (int x = part.x / kTile; x <= (part.x + part.width - 1) / kTile; ++x) stale_.insert(y * across + x);
}

void GroundView::drawFrame() {
    Renderer* r = surface_->renderer();
    if (!r || surface_->widget()->size().isEmpty()) return;
    surface_->makeCurrent();
    const PixelRect whole{0, 0, camera_.width, camera_.height};
    const bool everything = all_ || fresh_, refresh = refresh_;
    const std::vector<PixelRect> parts = everything ? std::vector{whole} : partsOf(pending_);
    r->sync(session_.level(), session_.pyramid(), everything || refresh ? nullptr : &pending_.change);
    drawnLook_ = lookOf(session_.level());
    if (std::exchange(flatWaits_, false)) r->setFlatLight(flatLight_);
    if (std::exchange(shadeWaits_, false) && sun_) r->setShade(*sun_, *open_);
    all_ = fresh_ = refresh_ = false;
    pending_ = {};
    if (r->trouble()) emit trouble(QString::fromStdString(r->trouble()->sentence()));
    if (refresh && !everything) {
        // The picture stays as it is and is renewed tile by tile, so that nothing flickers.
        markStale(whole);
        refine_.start();
    }
    for (const PixelRect& part : parts) drawPart(part, everything);
    if (!parts.empty() && (session_.stroking() || everything)) moveMark();
}

// The few rectangles of the picture that a change can show in.
std::vector<PixelRect> GroundView::partsOf(const News& news) const {
    std::vector<PixelRect> parts;
    const auto touch = [](const PixelRect& a, const PixelRect& b) { return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height; };
    for (const News::Spot& s : news.spots) {
        PixelRect part = pixelsOf(session_.level(), s.ground, s.heights, camera_);
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
    const double full = msPerMegapixel_ * part.width * part.height * 1e-6;
    const bool quick = r->software() && (everything || full > kDabMs);
    r->draw(camera_, sight_, quick ? Finish::quick : Finish::full, everything ? nullptr : &part);
    surface_->present(part);
    if (!quick) return;
    markStale(part);
    rest_.start();
}

void GroundView::refineSome() {
    Renderer* r = surface_->renderer();
    if (!r || stale_.isEmpty() || frame_.isActive()) return;
    if (hand_ == Hand::looking || hand_ == Hand::sliding || hand_ == Hand::orbiting || !held_.isEmpty()) return rest_.start();
    // The tile nearest to the hand first.
    const int across = (camera_.width + kTile - 1) / kTile;
    const QPointF near = hover_ ? *hover_ * devicePixel() : QPointF(camera_.width / 2.0, camera_.height / 2.0);
    int best = *stale_.begin();
    double least = 1e30;
    for (const int t : std::as_const(stale_)) {
        const double d = std::hypot((t % across + 0.5) * kTile - near.x(), (t / across + 0.5) * kTile - near.y());
        if (d < least) least = d, best = t;
    }
    stale_.remove(best);
    PixelRect tile{best % across * kTile, best / across * kTile, kTile, kTile};
    tile.width = std::min(tile.width, camera_.width - tile.x);
    tile.height = std::min(tile.height, camera_.height - tile.y);
    if (!tile.empty()) {
        QElapsedTimer clock;
        clock.start();
        surface_->makeCurrent();
        r->draw(camera_, sight_, Finish::full, &tile);
        surface_->present(tile);
        const double ms = clock.nsecsElapsed() * 1e-6 / (tile.width * tile.height * 1e-6);
        msPerMegapixel_ += 0.2 * (ms - msPerMegapixel_);
    }
    if (!stale_.isEmpty()) refine_.start();
}

// --- marks over the picture ---------------------------------------------------------------------------------------

void GroundView::moveMark() {
    const QRect before = markRect_;
    mark_ = {};
    mirrorLines_ = {};
    markRect_ = {};
    const Station s = session_.station();
    const double per = 1 / devicePixel();
    if (s == Station::shape || s == Station::cover) {
        const StrokeSettings settings = session_.strokeSettings();
        const std::optional<glm::dvec3> place = handled_ ? handled_ : session_.cursor();
        if (place && !taping_ && !session_.previewing()) {
            glm::dvec3 at = *place;
            at.y = altitudeAt(session_.level(), at.x, at.z);
            mark_ = markOf(session_.level(), camera_, at, settings);
        }
        mirrorLines_ = mirrorLines(session_.level(), camera_, settings.mirror);
        const QRectF b = mark_.bounds() | mirrorLines_.boundingRect();
        markRect_ = QRectF(b.topLeft() * per, b.size() * per).toAlignedRect().adjusted(-4, -4, 4, 4);
    }
    // Lines, tape and handles reach anywhere.
    if (!corners_.empty() || !session_.tape().empty() || handling_) markRect_ = rect();
    surface_->widget()->update(before);
    surface_->widget()->update(markRect_);
}

void GroundView::paintContourLabels(QPainter& p) {
    // A label wherever a strong contour crosses one of a few lines across the picture, with room between them.
    const double ratio = devicePixel(), step = 5 * sight_.contourStep;
    QFont font = p.font();
    font.setPixelSize(11);
    font.setBold(true);
    p.setFont(font);
    QVector<QPointF> placed;
    for (const double across : {0.2, 0.42, 0.63, 0.85}) {
        std::optional<glm::dvec3> before;
        for (int y = height() - 6; y > 0; y -= 6) {
            const auto at = pickGround(session_.level(), session_.pyramid(), camera_.ray(across * camera_.width, y * ratio));
            if (at && before && glm::distance(*at, *before) < camera_.metresPerPixel(glm::distance(camera_.at, *at)) * 120) {
                const double low = std::min(at->y, before->y), high = std::max(at->y, before->y);
                const double line = std::ceil(low / step) * step;
                const QPointF here(across * width(), y + 3);
                const bool room = std::none_of(placed.begin(), placed.end(), [&](const QPointF& q) { return std::abs(q.y() - here.y()) < 26 && std::abs(q.x() - here.x()) < 60; });
                if (line <= high && room) {
                    placed.append(here);
                    const QString text = QString::number(std::lround(line * 10) / 10.0) + " m";
                    QPainterPath shape;
                    shape.addText(here - QPointF(QFontMetrics(font).horizontalAdvance(text) / 2.0, -4), font, text);
                    p.strokePath(shape, QPen(QColor(250, 246, 238, 200), 3));
                    p.fillPath(shape, QColor(40, 26, 34));
                }
            }
            before = at;
        }
    }
}

// --- the hand -------------------------------------------------------------------------------------------------------

void GroundView::hoverAt(const QPointF& pixel) {
    hover_ = pixel;
    session_.setCursor(pick(pixel));
    moveMark();
}

glm::dvec3 GroundView::snapped(const glm::dvec3& at, Qt::KeyboardModifiers modifiers) const {
    if (!(modifiers & Qt::ControlModifier) || corners_.size() < 2) return at;
    const glm::dvec3& from = corners_[corners_.size() - 2];
    const double dx = at.x - from.x, dz = at.z - from.z, length = std::hypot(dx, dz), step = 3.14159265358979 / 12;
    const double a = std::round(std::atan2(dz, dx) / step) * step;
    glm::dvec3 to{from.x + std::cos(a) * length, 0, from.z + std::sin(a) * length};
    to.y = altitudeAt(session_.level(), to.x, to.z);
    return to;
}

void GroundView::finishLine() {
    std::vector<glm::dvec3> places = std::exchange(corners_, {});
    // The last corner of a line of clicks only followed the hand.
    if (session_.way() == StrokePath::corners && places.size() > 1) places.pop_back();
    hand_ = Hand::idle;
    session_.strokeAlong(places, pressure_, lineInverted_);
    moveMark();
}

void GroundView::dropLine() {
    corners_.clear();
    if (hand_ == Hand::lining) hand_ = Hand::idle;
    moveMark();
}

void GroundView::pressBrush(const QPointF& pixel, const glm::dvec3& at, Qt::KeyboardModifiers modifiers) {
    if (modifiers & Qt::AltModifier) return session_.pick(at);
    if (session_.way() == StrokePath::free) {
        strokeClock_.start();
        session_.beginStroke(at, pressure_, modifiers & Qt::ShiftModifier);
        if (!session_.stroking()) return;
        hand_ = Hand::stroking;
        strokeTimer_.start();
        return;
    }
    if (corners_.empty()) {
        lineInverted_ = modifiers & Qt::ShiftModifier;
        corners_ = {at, at};
    } else {
        corners_.back() = snapped(at, modifiers);
        corners_.push_back(corners_.back());
    }
    if (session_.way() == StrokePath::straight) hand_ = Hand::lining;
    lastPixel_ = pixel;
}

void GroundView::mousePressEvent(QMouseEvent* e) {
    setFocus();
    lastPixel_ = e->position();
    if (hand_ != Hand::idle) return;
    const auto at = pick(lastPixel_);
    if (e->button() == Qt::LeftButton) {
        hoverAt(lastPixel_);
        if (handling_) {
            grip_ = gripNear(lastPixel_);
            pullFrom_ = lastPixel_;
            pullRadius_ = session_.settings().radius;
            pullStrength_ = session_.settings().strength;
            hand_ = Hand::pulling;
            return;
        }
        if (!at) return;
        if (taping_) {
            session_.setTape({*at, *at});
            hand_ = Hand::taping;
            return;
        }
        const Station s = session_.station();
        if (s == Station::shape || s == Station::cover) pressBrush(lastPixel_, *at, e->modifiers());
    } else if (e->button() == Qt::RightButton) {
        grabbed_ = at;
        hand_ = (e->modifiers() & Qt::ControlModifier) && at ? Hand::orbiting : Hand::looking;
    } else if (e->button() == Qt::MiddleButton && at) {
        grabbed_ = at;
        hand_ = Hand::sliding;
    }
}

void GroundView::mouseDoubleClickEvent(QMouseEvent* e) {
    // The second press of a double click ends a line of clicks; elsewhere it is a press like any other.
    if (e->button() == Qt::LeftButton && session_.way() == StrokePath::corners && corners_.size() > 1 && !handling_ && !taping_) return finishLine();
    mousePressEvent(e);
}

void GroundView::mouseMoveEvent(QMouseEvent* e) {
    const QPointF d = e->position() - lastPixel_;
    lastPixel_ = e->position();
    switch (hand_) {
        case Hand::idle: break;
        case Hand::lining: break;
        case Hand::stroking:
            if (const auto at = pick(lastPixel_)) session_.continueStroke(*at, pressure_, strokeClock_.elapsed() / 1000.0);
            break;
        case Hand::pulling: pull(lastPixel_); break;
        case Hand::taping:
            if (const auto at = pick(lastPixel_)) session_.setTape({session_.tape().front(), *at});
            break;
        case Hand::looking: setCamera(navigator().look(camera_, d.x() * 0.22, -d.y() * 0.22)); break;
        case Hand::orbiting: setCamera(navigator().orbit(camera_, *grabbed_, d.x() * 0.35, -d.y() * 0.35)); break;
        case Hand::sliding: setCamera(navigator().slide(camera_, *grabbed_, {lastPixel_.x() * devicePixel(), lastPixel_.y() * devicePixel()})); break;
    }
    if (!corners_.empty() && (hand_ == Hand::idle || hand_ == Hand::lining))
        if (const auto at = pick(lastPixel_)) corners_.back() = snapped(*at, e->modifiers());
    hoverAt(lastPixel_);
}

void GroundView::mouseReleaseEvent(QMouseEvent* e) {
    const bool left = e->button() == Qt::LeftButton;
    if (hand_ == Hand::stroking && left) {
        strokeTimer_.stop();
        if (const auto at = pick(e->position())) session_.continueStroke(*at, pressure_, strokeClock_.elapsed() / 1000.0);
        session_.endStroke();
        hand_ = Hand::idle;
        pressure_ = 1;
    } else if (hand_ == Hand::lining && left) {
        finishLine();
    } else if ((hand_ == Hand::pulling || hand_ == Hand::taping) && left) {
        hand_ = Hand::idle;
        grip_ = Grip::none;
    } else if (!left && (hand_ == Hand::looking || hand_ == Hand::sliding || hand_ == Hand::orbiting)) {
        hand_ = Hand::idle;
    }
    hoverAt(e->position());
}

void GroundView::tabletEvent(QTabletEvent* e) {
    // The same movement arrives as a mouse event afterwards, because this one is not accepted.
    pressure_ = e->type() == QEvent::TabletRelease ? 1.f : static_cast<float>(std::max(e->pressure(), 0.01));
    e->ignore();
}

void GroundView::wheelEvent(QWheelEvent* e) {
    const double steps = e->angleDelta().y() / 120.0;
    if (hand_ == Hand::stroking || steps == 0) return;
    const Ray ray = camera_.ray(e->position().x() * devicePixel(), e->position().y() * devicePixel());
    const auto at = pick(e->position());
    const glm::dvec3 towards = at ? *at : ray.from + ray.along * std::max(20.0, navigator().heightAbove(camera_));
    setCamera(navigator().zoom(camera_, towards, 1 - std::pow(0.85, steps)));
    hoverAt(e->position());
}

void GroundView::leaveEvent(QEvent*) {
    if (hand_ != Hand::idle) return;
    hover_.reset();
    moveMark();
}

void GroundView::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape && hand_ == Hand::stroking) {
        strokeTimer_.stop();
        session_.cancelStroke();
        hand_ = Hand::idle;
        return;
    }
    if (!corners_.empty()) {
        if (e->key() == Qt::Key_Escape) return dropLine();
        if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) return finishLine();
        if (e->key() == Qt::Key_Backspace) {
            corners_.pop_back();
            if (corners_.size() < 2) return dropLine();
            corners_.back() = session_.cursor().value_or(corners_.back());
            return moveMark();
        }
    }
    if (kTravelKeys.contains(e->key()) && !(e->modifiers() & (Qt::ControlModifier | Qt::AltModifier))) {
        if (e->isAutoRepeat()) return;
        held_.insert(e->key());
        if (!travelTimer_.isActive()) {
            travelClock_.start();
            travelTimer_.start();
        }
        return;
    }
    QWidget::keyPressEvent(e);
}

void GroundView::keyReleaseEvent(QKeyEvent* e) {
    if (!e->isAutoRepeat()) held_.remove(e->key());
    if (held_.isEmpty()) travelTimer_.stop();
    QWidget::keyReleaseEvent(e);
}

void GroundView::focusOutEvent(QFocusEvent* e) {
    setHandling(false);
    held_.clear();
    travelTimer_.stop();
    QWidget::focusOutEvent(e);
}

void GroundView::travel() {
    const double seconds = std::min(travelClock_.restart() / 1000.0, 0.1);
    const auto axis = [this](int more, int less) { return static_cast<double>(held_.contains(more)) - static_cast<double>(held_.contains(less)); };
    setCamera(navigator().travel(camera_, axis(Qt::Key_W, Qt::Key_S), axis(Qt::Key_D, Qt::Key_A), axis(Qt::Key_E, Qt::Key_Q), seconds));
    if (hover_) hoverAt(*hover_);
}

}  // namespace jam
