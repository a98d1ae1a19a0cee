// Watches the level and, when it has rested for a moment, computes on another thread what the trail tells and
// what light needs: relief, shares of the layers, sunlight, and the little plan. What did not change is not computed
// again.
#pragma once

#include <memory>
#include <optional>
#include <QImage>
#include <QObject>

#include "render/bake.h"
#include "survey/level_survey.h"
#include "survey/sunlight.h"
#include "tasks/when_rested.h"
#include "watch/level_plan.h"

namespace jam {

class Document;

struct Findings : LevelSurvey {
    static constexpr int kPlanSize = 420;  // pixels at most

    Shade bare;         // of the ground alone
    Shade shade;        // with what stands on it
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
    bool busy() const { return rested_.busy(); }

signals:
    void found();
    void failed(const Error& error);

private:
    WhenRested::Job begin();
    // What has to be found out again since the last findings, on the survey's thread; unspecified when cancelled.
    std::shared_ptr<Findings> survey(const Level& level, const Context& context) const;

    Document& document_;
    std::shared_ptr<const Findings> findings_;
    std::optional<Level> surveyed_;  // the level that findings_ tell of
    WhenRested rested_;              // the last, because what runs reads the others
};

}  // namespace jam
