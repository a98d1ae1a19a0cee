#include "presenter.h"

#include <algorithm>
#include <utility>

namespace jam {

namespace {
constexpr double kFollowMs = 80;  // before what follows a dab is drawn without another
}

void Presenter::start(Step step, double after) { steps_.start(step, host_.now(), after); }

void Presenter::wake() {
    if (const auto next = steps_.next()) host_.wake(std::max(0.0, *next - host_.now()));
}

void Presenter::step() {
    SceneRenderer* s = scene();
    if (!s || camera_.width <= 0 || camera_.height <= 0) return;
    if (const auto due = steps_.take(host_.now())) {
        host_.makeCurrent();
        switch (*due) {
            case Step::frame:
                steps_.stop(Step::follow);
                frame(*s);
                break;
            case Step::follow: start(Step::frame); break;
            default: work(*due, *s);
        }
    }
    wake();
}

void Presenter::redrawAll() {
    all_ = true;
    forgetPace();
    start(Step::frame);
    wake();
}

void Presenter::forgetPending() {
    pending_ = {};
    patches_.clear();
}

void Presenter::resize(int width, int height) {
    camera_.width = width, camera_.height = height;
    forgetSeen();
    redrawAll();
}

void Presenter::setCamera(const Camera& camera) {
    camera_ = camera;
    redrawAll();
}

void Presenter::setSight(const Sight& sight) {
    sight_ = sight;
    forgetPace();
    refresh();
}

void Presenter::setSightAtOnce(const Sight& sight) {
    sight_ = sight;
    forgetSeen();
    redrawAll();
}

void Presenter::adopt() {
    forgetSeen();
    fresh_ = true;
    forgetPending();
    shade_ = {};
    shadeWaits_ = false;
    start(Step::frame);
    wake();
}

void Presenter::change(const Change& change, const std::vector<ChangedPatch>& patches, bool follows) {
    forgetSeen();
    pending_.add(change);
    patches_.insert(patches_.end(), patches.begin(), patches.end());
    // What follows a stroke comes with its next dab, or soon: two pictures would keep the hand waiting.
    if (!follows) start(Step::frame);
    else if (!steps_.waits(Step::frame) && !steps_.waits(Step::follow)) start(Step::follow, kFollowMs);
    wake();
}

void Presenter::refresh() {
    forgetSeen();
    refresh_ = true;
    start(Step::frame);
    wake();
}

void Presenter::setFlatLight(bool flat) {
    flat_ = flat;
    flatWaits_ = true;
    refresh();
}

void Presenter::setShade(const Shade& shade, const TileSet* changed) {
    // Two that wait together have changed where either did.
    if (!changed || (shadeWaits_ && !shadeChanged_)) shadeChanged_.reset();
    else shadeChanged_ = shadeWaits_ ? shadeChanged_->joined(*changed) : *changed;
    shade_ = shade;
    shadeWaits_ = true;
    start(Step::frame);
    wake();
}

void Presenter::setReach(std::shared_ptr<const Raster<uint8_t>> classes, int stride) {
    reach_ = std::move(classes);
    reachStride_ = stride;
    reachWaits_ = true;
    if (sight_.overlay == Overlay::reach) refresh();
}

void Presenter::setGhosts(const Strips& strips) {
    ghosts_ = strips;
    ghostsWait_ = true;
    forgetSeen();
    redrawAll();
}

void Presenter::setPasses(int passes) {
    passes_ = passes;
    steps_.stop(Step::smooth);
    if (passes > 0) start(Step::smooth);
    wake();
}

void Presenter::takeOver(const Presenter& other) {
    setPasses(other.passes_);
    camera_ = other.camera_, sight_ = other.sight_;
    flat_ = other.flat_, shade_ = other.shade_, ghosts_ = other.ghosts_;
    reach_ = other.reach_, reachStride_ = other.reachStride_;
    tellAgain();
}

void Presenter::tellAgain() {
    flatWaits_ = shadeWaits_ = reachWaits_ = ghostsWait_ = fresh_ = true;
    shadeChanged_.reset();
    start(Step::frame);
    wake();
}

void Presenter::sync(SceneRenderer& scene) {
    scene.sync(host_.level(), host_.pyramid(), all_ || fresh_ || refresh_ ? nullptr : &pending_);
    if (std::exchange(flatWaits_, false)) scene.setFlatLight(flat_);
    if (std::exchange(ghostsWait_, false)) scene.setGhosts(ghosts_);
    if (std::exchange(reachWaits_, false)) scene.setReach(reach_, reachStride_);
    if (std::exchange(shadeWaits_, false)) scene.setShade(shade_, shadeChanged_ ? &*shadeChanged_ : nullptr);
    if (scene.trouble()) host_.trouble(*scene.trouble());
}

bool Presenter::drawAside(const Camera& camera, const Sight& sight, uint8_t* bgra) {
    SceneRenderer* s = scene();
    if (!s) return false;
    host_.makeCurrent();
    if (!s->drawable()) return false;
    Target aside;
    aside.resize(camera.width, camera.height);
    s->bring(camera, sight);
    Quality patient;
    patient.patient = true;
    s->draw(aside, {camera, sight, patient, {0, 0, camera.width, camera.height}, {}});
    aside.read({0, 0, camera.width, camera.height}, bgra, camera.width * 4);
    return true;
}

}  // namespace jam
