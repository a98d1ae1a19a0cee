#include "hands/single_hand.h"

#include <algorithm>
#include <cmath>
#include <glm/geometric.hpp>
#include <set>

#include "base/maths.h"
#include "commit/commit.h"
#include "dress/arrange.h"
#include "edits/kind_edits.h"
#include "grow/recipe.h"
#include "view/ground_view.h"
#include "view/over_ground.h"

namespace jam {

namespace {

constexpr double kLeastNear = 6;      // pixels beside something thin that still count
constexpr double kFarthest = 600;     // metres from the eye that are looked at
constexpr double kBesideCourse = 30;  // metres from the middle of a course that a click still means it
constexpr double kSizeByPull = 0.01;  // doubled by a hundred pixels and more

}  // namespace

std::optional<OneStanding> plantingUnder(const GroundView& view, Plantings& all, const HandEvent& e) {
    const Level& level = all.level();
    if (level.kinds.empty()) return std::nullopt;
    const Camera& camera = view.camera();
    // Along the ground below the look: what is tall stands before the ground that the pixel shows.
    const glm::dvec3 end = e.ground
                               ? *e.ground
                               : camera.at + kFarthest * glm::normalize(camera
                                                                            .ray(e.pixel.x() * view.devicePixelRatioF(),
                                                                                 e.pixel.y() * view.devicePixelRatioF())
                                                                            .along);
    const Standing reach = standingOf(level);
    const double wide = Plantings::kTile * level.spacing, aside = static_cast<double>(reach.aside);
    const double run = std::min(std::hypot(end.x - camera.at.x, end.z - camera.at.z), kFarthest);
    const double along = std::hypot(end.x - camera.at.x, end.z - camera.at.z);
    std::set<std::pair<int, int>> tiles;
    for (double far = 0; far <= run + 2 * aside; far += std::min(wide / 3, 20.0)) {
        // From the ground back to the eye.
        const double t = along > 0 ? 1 - (far - aside) / along : 1;
        const double x = camera.at.x + t * (end.x - camera.at.x), z = camera.at.z + t * (end.z - camera.at.z);
        for (const double dx : {-aside, 0.0, aside})
            for (const double dz : {-aside, 0.0, aside}) {
                const int tx = static_cast<int>(std::floor((x + dx - level.originX) / wide)),
                          tz = static_cast<int>(std::floor((z + dz - level.originZ) / wide));
                if (tx >= 0 && tz >= 0 && tx < all.tilesAcross() && tz < all.tilesDown()) tiles.insert({tx, tz});
            }
    }
    std::optional<OneStanding> best;
    double nearest = 1e30;
    for (size_t k = 0; k < level.kinds.size(); ++k) {
        if (level.kinds[k].hidden) continue;
        const auto grown = meshesOf(level.kinds[k]);
        for (const auto& [tx, tz] : tiles)
            for (const Planting& p : all.tile(k, tx, tz)) {
                const double away = glm::distance(camera.at, glm::dvec3(p.x, p.y, p.z));
                if (away >= nearest || away > kFarthest) continue;
                const double tall = static_cast<double>(grown->height * p.size);
                const auto foot = view.pixelOf({p.x, static_cast<double>(p.y), p.z}),
                           head = view.pixelOf({p.x, static_cast<double>(p.y) + tall, p.z});
                if (!foot || !head) continue;
                const QPointF axis = *head - *foot;
                const double square = QPointF::dotProduct(axis, axis);
                const double t = square > 0 ? std::clamp(QPointF::dotProduct(e.pixel - *foot, axis) / square, 0.0, 1.0)
                                            : 0;
                const QPointF off = e.pixel - (*foot + axis * t);
                // Half as wide as it is, because a crown is no box.
                const double radius = 0.6 * static_cast<double>(grown->radius * p.size) /
                                      (camera.metresPerPixel(away) * view.devicePixelRatioF());
                if (std::hypot(off.x(), off.y()) > std::max(radius, kLeastNear)) continue;
                nearest = away;
                best = OneStanding{level.kinds[k].id, p};
            }
    }
    return best;
}

SingleHand::SingleHand(GroundView& view, const HandEvent& press, const OneStanding& what)
    : PullHand(view, press), begun_(press.ground) {
    Workplace& place = view.workplace();
    place.chooseKind(what.kind);
    std::vector<OneStanding> chosen = place.standpoint.chosen();
    const auto same = [&](const OneStanding& o) { return o.is(what); };
    const bool already = std::any_of(chosen.begin(), chosen.end(), same);
    // What is in a group comes with all of it, unless one alone is wished for.
    const Level& level = place.document.standing();
    std::vector<OneStanding> all;
    for (const uint32_t id : groupOf(level, press.modifiers & Qt::ControlModifier ? 0 : what.planting.single))
        if (const Single* s = level.single(id))
            if (const Kind* k = level.kind(s->kind)) all.push_back({s->kind, standing(level, *k, *s)});
    if (all.empty()) all = {what};
    if (press.modifiers & Qt::ShiftModifier) {
        std::erase_if(chosen, [&](const OneStanding& o) {
            return std::any_of(all.begin(), all.end(), [&](const OneStanding& a) { return a.is(o); });
        });
        if (!already) chosen.insert(chosen.end(), all.begin(), all.end());
    } else if (!already || (press.modifiers & Qt::ControlModifier)) {
        chosen = std::move(all);
    }
    place.standpoint.setChosen(std::move(chosen));
}

void SingleHand::pull(const HandEvent& e) {
    if (!e.ground) return;
    if (!begun_) begun_ = e.ground;  // pressed against the sky
    Workplace& place = view_.workplace();
    const Result<Commit> tried = KindEdits(place).tried(e.ground->x - begun_->x, e.ground->z - begun_->z);
    trouble_ = tried ? QString() : QString::fromStdString(tried.error().problem);
    if (!tried) return;
    to_ = e.ground;
    place.document.showPreview(tried.value());
}

void SingleHand::keep() {
    if (to_) KindEdits(view_.workplace()).moveChosen(to_->x - begun_->x, to_->z - begun_->z);
}

void SingleHand::click() {}

void SingleHand::paint(QPainter& p) const {
    if (!pulls_) return;
    if (!trouble_.isEmpty()) return paintLabel(p, now_ + QPointF(16, -10), trouble_);
    if (to_)
        paintLabel(p, now_ + QPointF(16, -10),
                   GroundView::tr("%1 m").arg(std::hypot(to_->x - begun_->x, to_->z - begun_->z), 0, 'f', 1));
}

RowHand::RowHand(GroundView& view, const HandEvent& press, uint32_t kind, std::optional<OneStanding> under)
    : PullHand(view, press), kind_(kind), under_(std::move(under)), begun_(press.ground) {}

void RowHand::click() {
    Workplace& place = view_.workplace();
    const Level& level = place.document.standing();
    if (under_ && under_->planting.single)
        if (const Single* s = level.single(under_->planting.single); s && s->group) {
            KindEdits(place).leaveGate(s->id);
            return;
        }
    if (!begun_) return;
    const auto beside = lineBesideCourse(level, begun_->x, begun_->z, kBesideCourse);
    if (!beside) return place.tell(QString::fromStdString(beside.error().sentence()));
    KindEdits(place).putLine(kind_, beside.value());
}

std::vector<std::array<double, 2>> RowHand::line() const { return {{begun_->x, begun_->z}, {to_->x, to_->z}}; }

void RowHand::pull(const HandEvent& e) {
    if (!e.ground) return;
    if (!begun_) begun_ = e.ground;
    to_ = e.ground;
    const Level& before = view_.workplace().document.standing();
    Level next = before;
    const Result<std::vector<Single>> made = lineOfSingles(before, kind_, line());
    count_ = made ? made.value().size() : 0;
    const Status put = putLine(next, kind_, line());
    trouble_ = put ? QString() : QString::fromStdString(put.error().problem);
    if (!put) return;
    if (const Result<Commit> done = commitWork(before, std::move(next)); done)
        view_.workplace().document.showPreview(done.value());
}

void RowHand::keep() {
    if (to_) KindEdits(view_.workplace()).putLine(kind_, line());
}

void RowHand::paint(QPainter& p) const {
    if (!pulls_ || !to_) return;
    const double metres = std::hypot(to_->x - begun_->x, to_->z - begun_->z);
    paintLabel(
        p, now_ + QPointF(16, -10),
        trouble_.isEmpty() ? GroundView::tr("%1 m   %2 in a line").arg(metres, 0, 'f', 1).arg(count_) : trouble_);
}

PutHand::PutHand(GroundView& view, const HandEvent& press, uint32_t kind) : PullHand(view, press) {
    single_.kind = kind;
    if (press.ground) single_.x = press.ground->x, single_.z = press.ground->z;
    const Kind* k = view.workplace().document.standing().kind(kind);
    if (k) single_.size = std::sqrt(k->sizeFrom * k->sizeTo);
}

void PutHand::pull(const HandEvent& e) {
    Workplace& place = view_.workplace();
    const Kind* k = place.document.standing().kind(single_.kind);
    if (!k) return;
    // Where the pull goes its front looks, which is the +Z of its mesh; the farther, the larger.
    if (e.ground) {
        const double dx = e.ground->x - single_.x, dz = e.ground->z - single_.z;
        if (std::hypot(dx, dz) > 1e-3)
            single_.turn = static_cast<float>(std::fmod(std::atan2(-dx, dz) * kDegrees + 360, 360));
    }
    const double far = std::hypot(now_.x() - from_.x(), now_.y() - from_.y());
    const double usual = std::sqrt(static_cast<double>(k->sizeFrom) * static_cast<double>(k->sizeTo));
    single_.size = static_cast<float>(std::clamp(usual * (0.6 + kSizeByPull * far), kLeastSize, kMostSize));
    Level next = place.document.standing();
    const Result<uint32_t> put = putSingle(next, single_);
    trouble_ = put ? QString() : QString::fromStdString(put.error().problem);
    if (!put) return;
    const Result<Commit> done = commitWork(place.document.standing(), std::move(next));
    if (done) place.document.showPreview(done.value());
}

void PutHand::keep() { KindEdits(view_.workplace()).put(single_); }
void PutHand::click() { KindEdits(view_.workplace()).put(single_); }

void PutHand::paint(QPainter& p) const {
    if (!pulls_) return;
    paintLabel(p, now_ + QPointF(16, -10),
               trouble_.isEmpty()
                   ? GroundView::tr("%1°   size %2").arg(single_.turn, 0, 'f', 0).arg(single_.size, 0, 'f', 2)
                   : trouble_);
}

}  // namespace jam
