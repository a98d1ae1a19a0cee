#include "hands/fence_hand.h"

#include <glm/geometric.hpp>

#include "hands/brush_hands.h"
#include "hands/clip_hand.h"
#include "hands/course_hand.h"
#include "level/ground.h"
#include "looks/theme.h"
#include "view/ground_view.h"
#include "view/over_ground.h"

namespace jam {

namespace {

FenceJoin joinOf(const Workplace& place, Qt::KeyboardModifiers keys) {
    if (keys & Qt::ShiftModifier) return FenceJoin::add;
    if (keys & Qt::ControlModifier) return FenceJoin::takeAway;
    return place.standpoint.fenceJoin();
}

constexpr double kAtOnce = 4e6;  // samples that may be looked at while the hand waits

// At once where it is quick, otherwise beside the window.
void changeFence(Workplace& place, const WorkOn& work, double visits, const FenceChange& change) {
    const QString what = GroundView::tr("Fence");
    if (visits > kAtOnce) return work(what, fenceJob({}, change));
    Level tried = place.document.standing();
    change(tried, {});
    if (fenceEmpty(tried)) return place.tell(GroundView::tr("Nothing would lie inside; the fence stays as it was."));
    place.document.edit(what, [&](Level& l) { l = std::move(tried); });
}

std::vector<MapPlace> onMap(const std::vector<glm::dvec3>& places) {
    std::vector<MapPlace> out;
    for (const glm::dvec3& p : places) out.push_back({p.x, p.z});
    return out;
}

}  // namespace

std::unique_ptr<Hand> fenceHand(GroundView& view, const HandEvent& press, const WorkOn& work) {
    Workplace& place = view.workplace();
    if (!press.ground) return nullptr;
    const FenceJoin join = joinOf(place, press.modifiers);
    if (place.standpoint.fenceWay() != FenceWay::connected)
        return std::make_unique<FenceHand>(view, press, place.standpoint.fenceWay(), join, work);
    const auto change = [x = press.ground->x, z = press.ground->z, join](Level& l, const Context& c) {
        return joinFence(l, connectedLayer(l, x, z, c), join, c);
    };
    changeFence(place, work, static_cast<double>(place.document.level().columns) * place.document.level().rows, change);
    return nullptr;
}

std::unique_ptr<Hand> workingHand(GroundView& view, const HandEvent& press, const WorkOn& work) {
    const Standpoint& stand = view.workplace().standpoint;
    if (stand.coursing()) return courseHand(view, press);
    if (view.workplace().clips.clipping()) return clipHand(view, press);
    return stand.fenceWay() == FenceWay::none ? brushHand(view, press) : fenceHand(view, press, work);
}

FenceHand::FenceHand(GroundView& view, const HandEvent& press, FenceWay way, FenceJoin join, WorkOn work)
    : ClicksHand(view, way == FenceWay::line, {*press.ground}), way_(way), join_(join), work_(std::move(work)) {
    if (way != FenceWay::lasso) places_.push_back(*press.ground);
}

void FenceHand::press(const HandEvent& e) {
    if (!e.ground) return;
    places_.back() = *e.ground;
    places_.push_back(*e.ground);
}

void FenceHand::move(const HandEvent& e) {
    if (!e.ground) return;
    if (way_ == FenceWay::rectangle || way_ == FenceWay::line) places_.back() = *e.ground;
    else if (glm::distance(places_.back(), *e.ground) > view_.workplace().document.level().spacing)
        places_.push_back(*e.ground);
}

void FenceHand::release(const HandEvent& e) {
    if (!byClicks_ && e.button == Qt::LeftButton) finish();
}

// The corners of what is drawn, on the ground.
std::vector<glm::dvec3> FenceHand::outline() const {
    if (way_ != FenceWay::rectangle) return places_;
    const glm::dvec3 &a = places_.front(), &b = places_.back();
    return {a, {b.x, 0, a.z}, b, {a.x, 0, b.z}};
}

void FenceHand::finish() {
    done_ = true;
    Workplace& place = view_.workplace();
    dropFollower();
    const std::vector<MapPlace> drawn = onMap(outline());
    const StrokeSettings& brush = place.toolbox.settings();
    const Level& level = place.document.level();
    const bool area = way_ == FenceWay::rectangle || way_ == FenceWay::lasso;
    if (area && drawn.size() < 3) return;
    const auto source = [area, drawn, width = 2.0 * brush.radius,
                         softness = way_ == FenceWay::brush ? brush.falloff.softness : 0](const Level& l) {
        return area ? insidePolygon(l, drawn) : alongLine(l, drawn, width, softness);
    };
    changeFence(place, work_, source(level).visits,
                [source, join = join_](Level& l, const Context& c) { return joinFence(l, source(l), join, c); });
}

void FenceHand::paint(QPainter& p) const {
    std::vector<glm::dvec3> line = outline();
    if (way_ == FenceWay::rectangle || way_ == FenceWay::lasso) line.push_back(line.front());
    paintLine(p, view_, line, theme().brush, byClicks_);
}

}  // namespace jam
