// Watches the level and, when it has rested for a moment, computes on another thread what the trail tells and
// what light needs: relief, shares of the layers, sunlight, and the little plan. What did not change is not computed
// again.
#pragma once

#include <array>
#include <map>
#include <memory>
#include <optional>
#include <QImage>
#include <QObject>

#include "beside.h"
#include "level_plan.h"
#include "render/bake.h"
#include "survey/openings.h"
#include "survey/sunlight.h"
#include "survey/tallies.h"
#include "water/figures.h"

namespace jam {

class Document;

struct Findings {
    static constexpr int kPlanSize = 420;  // pixels at most

    GroundFigures ground;
    std::array<double, kMaxLayers> shares{};
    double stretched = 0;  // share of the ground whose textures are drawn out by more than half
    std::vector<FoundOpening> openings;
    std::map<uint32_t, PoolFigures> pools;  // by id
    std::map<uint32_t, StreamFigures> streams;
    Tallies tallies;  // that the figures above come from
    Shade shade;
    SunShade sunShade;  // that shade.sun was worked out with
    // Where the shade differs from that of the findings before; none when there were none of this level's size.
    std::optional<TileSet> shadeChanged;
    QImage plan;  // the level from above, with contours
    LevelPlan levelPlan{kPlanSize};
    float planInterval = 5;  // metres between its contours
};

class Surveyor : public QObject {
    Q_OBJECT
public:
    explicit Surveyor(Document& document, QObject* parent = nullptr);

    // Null until the first survey is done.
    const std::shared_ptr<const Findings>& findings() const { return findings_; }
    // The steepest that can be walked, for what depends on it, degrees.
    void setWalkable(float degrees);
    bool busy() const { return beside_.busy(); }

signals:
    void found();
    void failed(const Error& error);

private:
    Beside::Job begin();
    // What has to be found out again since the last findings, on the survey's thread; unspecified when cancelled.
    std::shared_ptr<Findings> survey(const Level& level, float walkable, const Context& context) const;

    Document& document_;
    float walkable_ = 35, surveyedWalkable_ = 0;
    std::shared_ptr<const Findings> findings_;
    std::optional<Level> surveyed_;  // the level that findings_ tell of
    Beside beside_;                  // the last, because what runs reads the others
};

}  // namespace jam
