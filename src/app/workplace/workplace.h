// A workplace: a document on the bench, a toolbox beside it, a clip in hand, and somebody who stands somewhere. What
// needs more than one of them is here; whoever needs only one takes only that one.
#pragma once

#include "workplace/clips.h"
#include "workplace/document.h"
#include "workplace/neighbours.h"
#include "workplace/standpoint.h"
#include "workplace/toolbox.h"

namespace jam {

class Workplace : public QObject {
    Q_OBJECT
public:
    explicit Workplace(Level level, const QString& what = tr("Start"), QObject* parent = nullptr);

    Document document;
    Toolbox toolbox;
    Standpoint standpoint;
    Clips clips{document};
    Neighbours neighbours{document};

    // What a stroke begun now would work with: the tool's settings with mirror, pen and layer.
    StrokeSettings strokeSettings() const;
    // The layer that is chosen, or null.
    const Layer* layer() const { return document.level().layer(standpoint.layer()); }
    void chooseLayer(uint32_t id) {
        if (document.level().layer(id)) standpoint.setLayer(id);
    }
    const Kind* kind() const { return document.level().kind(standpoint.kind()); }
    void chooseKind(uint32_t id) {
        if (document.level().kind(id)) standpoint.setKind(id);
    }
    // Whether the present station works with the brush.
    bool brushing() const;
    // Whether what is at hand works where there is no ground too, so that the cursor meets the surface it would have.
    bool meetsSurface() const;
    // Goes to the station that has the tool, and takes it up.
    void takeUp(Tool tool);
    // The tool at hand becomes the preset's, with its settings.
    void applyPreset(const StrokeSettings& settings);

    // Begins a stroke with the present tool (inverted with Shift) at a place on the ground; says why not, if not.
    bool beginStroke(const glm::dvec3& at, float pressure, bool inverted);
    // Goes on at a place `seconds` after the beginning; the same place again lets the brush rest there.
    void continueStroke(const glm::dvec3& at, float pressure, double seconds);
    void endStroke();
    // A whole stroke along places on the ground at once: straight strokes and lines of clicks.
    void strokeAlong(const std::vector<glm::dvec3>& places, float pressure, bool inverted);
    // Takes the height (flatten) or the layer that lies there into the tool.
    void pick(const glm::dvec3& at);

    // Tells something in passing.
    void tell(const QString& sentence) { emit said(sentence); }

signals:
    void said(const QString& sentence);  // something to tell in passing

private:
    void ensureChosenLayer();
    void ensureChosenKind();
    void tellOwner(const glm::dvec3& at);
    std::shared_ptr<const Level> restoreReference() const;

    QString strokeName_;
};

}  // namespace jam
