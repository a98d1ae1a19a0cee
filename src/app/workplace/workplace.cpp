#include "workplace/workplace.h"

#include <algorithm>

#include "cover/weights.h"
#include "level/ground.h"
#include "looks/tool_looks.h"
#include "pictures/material.h"

namespace jam {

namespace {

// The height of a layer's pictures, for breaking up by it; null for other work, or when they do not decode.
std::shared_ptr<const Raster<float>> pictureHeightsFor(const StrokeSettings& s, const Level& level) {
    if (!uses(s.tool, settings::breakBy) || s.breakBy != BreakBy::height || !level.layer(s.layer)) return nullptr;
    const Result<Material> m = makeMaterial(*level.layer(s.layer), 128);
    return m ? std::make_shared<const Raster<float>>(heightOf(m.value())) : nullptr;
}

}  // namespace

Workplace::Workplace(Level level, const QString& what, QObject* parent)
    : QObject(parent), document(std::move(level), what) {
    connect(&document, &Document::said, this, &Workplace::said);
    connect(&clips, &Clips::said, this, &Workplace::said);
    document.on(About::layers, this, &Workplace::ensureChosenLayer);
    document.on(About::dress, this, &Workplace::ensureChosenKind);
    document.on(About::raster, this, [this] {
        standpoint.setCursor({});
        standpoint.setTape({});
    });
    document.on(About::history, this, [this] {
        // What a step was restored from may be gone with its level.
        if (toolbox.restoreSource() == RestoreSource::step && document.history().entries().size() == 1)
            toolbox.setRestoreSource(RestoreSource::startHeight);
    });
    // A station brings a tool of its own to hand.
    connect(&standpoint, &Standpoint::stationChanged, this, [this] {
        const QByteArray& here = standpoint.station();
        if (stationOf(toolbox.tool()) == here) return;
        for (int t = 0; t < kTools; ++t)
            if (stationOf(static_cast<Tool>(t)) == here) return toolbox.setTool(static_cast<Tool>(t));
    });
    ensureChosenLayer();
    ensureChosenKind();
}

void Workplace::ensureChosenLayer() {
    const std::vector<Layer>& layers = document.level().layers;
    if (!layer() && !layers.empty()) standpoint.setLayer(layers[layers.size() > 1 ? 1 : 0].id);
}

void Workplace::ensureChosenKind() {
    const Level& level = document.level();
    if (!kind()) standpoint.setKind(level.kinds.empty() ? 0 : level.kinds.front().id);
    // Those that are gone are chosen no more; what is only tried takes none away.
    const Level& standing = document.standing();
    std::vector<OneStanding> left = standpoint.chosen();
    std::erase_if(left, [&](const OneStanding& one) {
        const Kind* k = standing.kind(one.kind);
        return !k || (one.planting.single ? !standing.single(one.planting.single)
                                          : std::binary_search(k->gone.begin(), k->gone.end(), one.planting.place));
    });
    standpoint.setChosen(std::move(left));
}

StrokeSettings Workplace::strokeSettings() const {
    StrokeSettings s = toolbox.settings();
    s.mirror = toolbox.mirror();
    s.pressure = toolbox.pen();
    s.layer = standpoint.layer();
    s.kind = standpoint.kind();
    const Level& level = document.level();
    if (!level.layer(s.where.onLayer)) s.where.onLayer = 0;
    if (!level.layer(s.where.offLayer)) s.where.offLayer = 0;
    if (!level.kind(s.ofKind) || s.ofKind == s.kind) s.ofKind = 0;  // as its field shows it
    if (specOf(s.tool).needs.reference)
        s.restore = toolbox.restoreSource() == RestoreSource::startHeight ? RestoreTo::start : RestoreTo::reference;
    return s;
}

bool Workplace::brushing() const {
    return standpoint.fenceWay() == FenceWay::none && !standpoint.coursing() && !clips.clipping() &&
           standpoint.dressWay() == DressWay::brush && stationOf(toolbox.tool()) == standpoint.station();
}

void Workplace::takeUp(Tool tool) {
    standpoint.setFenceWay(FenceWay::none);
    standpoint.setDressWay(DressWay::brush);
    standpoint.setCoursing(false);
    clips.setClipping(false);
    standpoint.setStation(stationOf(tool));
    toolbox.setTool(tool);
}

void Workplace::applyPreset(const StrokeSettings& preset) {
    takeUp(preset.tool);
    toolbox.changeSettings([&](StrokeSettings& s) { s = preset; });
}

bool Workplace::meetsSurface() const {
    return standpoint.fenceWay() != FenceWay::none || (brushing() && makesGaps(toolbox.tool()));
}

std::shared_ptr<const Level> Workplace::restoreReference() const {
    if (toolbox.restoreSource() == RestoreSource::lastSave) return document.savedLevel();
    const Level* step = document.stepLevel(toolbox.restoreSerial());
    return step ? std::make_shared<const Level>(*step) : nullptr;
}

bool Workplace::beginStroke(const glm::dvec3& at, float pressure, bool isInverted) {
    if (document.stroking()) return false;
    const StrokeSettings s = isInverted ? inverted(strokeSettings()) : strokeSettings();
    if (const QString no = document.whyNoStroke(); !no.isEmpty()) {
        emit said(no);
        return false;
    }
    const auto reference = specOf(s.tool).needs.reference ? restoreReference() : nullptr;
    if (const Status able = checkNeeds(document.level(), s, reference.get()); !able) {
        Error e = able.error();
        e.field.clear();
        emit said(QString::fromStdString(e.sentence()));
        return false;
    }
    if (shapesGround(s.tool)) tellOwner(at);
    strokeName_ = toolTitle(s.tool);
    if (dresses(s.tool) && kind()) strokeName_ += " " + QString::fromStdString(kind()->name);
    if (usesLayer(s.tool)) strokeName_ += " " + QString::fromStdString(layer()->name);
    document.beginStroke(s, reference, pictureHeightsFor(s, document.level()));
    continueStroke(at, pressure, 0);
    return true;
}

// Under a course nothing is piled up; the one that owns the ground says so.
void Workplace::tellOwner(const glm::dvec3& at) {
    const Level& level = document.level();
    const int c = static_cast<int>(std::lround(level.toColumn(at.x))),
              r = static_cast<int>(std::lround(level.toRow(at.z))), active = level.stratumIndex(level.activeStratum);
    if (!level.bounds().contains(c, r) || gainAbove(level, static_cast<size_t>(active), c, r) > kLeastGain) return;
    for (size_t i = level.strata.size(); i-- > static_cast<size_t>(active) + 1;)
        if (const Stratum& s = level.strata[i]; s.course && s.visible && s.owned.at(c, r) > 0.5f)
            return tell((s.leads() ? tr("The course “%1” owns the ground here; move its posts to shape it.")
                                   : tr("“%1” owns the ground here; it is changed with its spot, at Walk."))
                            .arg(QString::fromStdString(s.name)));
}

void Workplace::continueStroke(const glm::dvec3& at, float pressure, double seconds) {
    document.continueStroke({at.x, at.z, pressure, seconds});
}

void Workplace::endStroke() { document.endStroke(strokeName_); }

void Workplace::strokeAlong(const std::vector<glm::dvec3>& places, float pressure, bool inverted) {
    if (places.empty() || !beginStroke(places.front(), pressure, inverted)) return;
    for (size_t i = 1; i < places.size(); ++i) continueStroke(places[i], pressure, 0);
    endStroke();
}

void Workplace::pick(const glm::dvec3& at) {
    const Level& level = document.level();
    if (shapesGround(toolbox.tool())) {
        const auto height = static_cast<float>(altitudeAt(level, at.x, at.z));
        if (!uses(toolbox.tool(), settings::height)) toolbox.setTool(Tool::flatten);
        toolbox.changeSettings([&](StrokeSettings& s) { s.height = height; });
        emit said(tr("Flatten works towards %1 m.").arg(height, 0, 'f', 2));
        return;
    }
    const auto mix = mixAt(level, at.x, at.z);
    const Layer& most = level.layers[static_cast<size_t>(std::max_element(mix.begin(), mix.end()) - mix.begin())];
    chooseLayer(most.id);
    emit said(tr("Paints with “%1”.").arg(QString::fromStdString(most.name)));
}

}  // namespace jam
