#include "workplace/clips.h"

#include "clip/clip.h"
#include "level/ground.h"

namespace jam {

Clips::Clips(Document& document, QObject* parent) : QObject(parent), document_(document) {
    // A step in the history lets the preview go; another is made of the ground as it is now.
    document_.on(About::history, this, [this] {
        if (held_ && !showing_ && !document_.previewing() && !document_.lookingBack()) touch();
    });
    document_.on(About::raster, this, &Clips::putAway);
}

void Clips::setClipping(bool on) {
    if (on == clipping_) return;
    clipping_ = on;
    if (!on) putAway();
    emit clippingChanged();
}

Result<std::vector<Placement>> Clips::places() const {
    if (line_.empty()) return std::vector<Placement>{placement_};
    return placesAlong(line_, every_, placement_);
}

void Clips::hold(std::shared_ptr<const Level> clip, const Placement& placement) {
    if (held_) putAway();
    held_ = last_ = std::move(clip);
    placement_ = placement;
    line_.clear();
    drawsLine_ = false;
    wish_.stratum = underCourses() ? held_->name : std::string();
    emit heldChanged();
    touch();
}

bool Clips::underCourses() const {
    const Level& l = document_.standing();
    const auto active = static_cast<size_t>(std::max(l.stratumIndex(l.activeStratum), 0));
    return std::any_of(l.strata.begin() + static_cast<ptrdiff_t>(active), l.strata.end(),
                       [](const Stratum& s) { return s.mixes() && s.visible; });
}

void Clips::move(const Placement& placement) {
    if (placement == placement_) return;
    placement_ = placement;
    touch();
}

void Clips::change(const std::function<void(SetDownWish&)>& change) {
    change(wish_);
    touch();
}

void Clips::setLine(std::vector<MapPlace> line) {
    line_ = std::move(line);
    touch();
}

void Clips::setEvery(double metres) {
    every_ = metres;
    touch();
}

void Clips::putAway() {
    if (!held_) return;
    trying_.drop();
    held_.reset();
    trouble_.clear();
    applies_ = false;
    wish_.stratum.clear();
    if (document_.previewing()) document_.dropPreview();
    emit heldChanged();
}

void Clips::touch() {
    ++asked_;
    emit moved();
    if (!trying_.running() && held_) tryIt();
}

// What runs is let finish, so that the ground follows a hand that never rests; then the latest is worked out.
void Clips::tryIt() {
    const Result<std::vector<Placement>> where = places();
    if (!where) return finished(document_.history().serial(), asked_, where.error());
    trying_.run<Commit>(
        tr("Setting the clip down"),
        [settled = document_.settled(), clip = held_, where = where.value(),
         wish = wish_](const Context& context) -> Result<Commit> {
            const Result<Level> level = settled(context);
            if (!level) return level.error();
            Result<Level> after = jam::setDown(level.value(), *clip, where, wish, context);
            if (!after) return after.error();
            return commitWork(level.value(), after.take(), context);
        },
        [this, serial = document_.history().serial(), asked = asked_](Result<Commit> made) {
            finished(serial, asked, std::move(made));
        });
}

void Clips::finished(uint64_t serial, unsigned asked, Result<Commit> made) {
    if (!held_) return;
    showing_ = true;
    trouble_ = made ? QString() : QString::fromStdString(made.error().sentence());
    const bool fits = serial == document_.history().serial();
    if (made && fits) document_.showPreview(made.take());
    else if (!made && document_.previewing()) document_.dropPreview();
    showing_ = false;
    shown_ = asked;
    emit tried();
    if (shown_ != asked_ || !fits) return tryIt();
    if (!applies_) return;
    applies_ = false;
    if (!trouble_.isEmpty()) return emit said(trouble_);
    setDown();
}

void Clips::setDown() {
    if (!held_ || document_.stroking()) return;
    if (trying_.running() || shown_ != asked_ || !document_.previewing()) {
        if (!trouble_.isEmpty() && !trying_.running()) return emit said(trouble_);
        applies_ = true;
        if (!trying_.running()) tryIt();
        return;
    }
    const QString name = QString::fromStdString(held_->name);
    const size_t count = places().value().size();
    held_.reset();  // before the history tells of the step
    wish_.stratum.clear();
    document_.applyPreview(count > 1 ? tr("Set down %1 × “%2”").arg(count).arg(name) : tr("Set down “%1”").arg(name));
    emit heldChanged();
    emit said(tr("“%1” lies on the ground now. It is one step that can be undone.").arg(name));
}

bool Clips::takeLifted(Result<Level> clip) {
    if (!clip) {
        emit said(QString::fromStdString(clip.error().sentence()));
        return false;
    }
    auto lifted = std::make_shared<const Level>(clip.take());
    wish_ = {};
    Placement p;
    p.x = lifted->originX + lifted->width() / 2;
    p.z = lifted->originZ + lifted->depth() / 2;
    hold(std::move(lifted), p);
    emit this->lifted();
    return true;
}

bool Clips::lift(const MapPlace& a, const MapPlace& b) {
    const Level& l = document_.standing();
    return takeLifted(liftClip(l, samplesBetween(l, a.x, a.z, b.x, b.z),
                               tr("Piece of %1").arg(QString::fromStdString(l.name)).toStdString()));
}

bool Clips::liftFenced() {
    const Level& l = document_.standing();
    return takeLifted(jam::liftFenced(l, tr("Piece of %1").arg(QString::fromStdString(l.name)).toStdString()));
}

}  // namespace jam
