// Walk: drop into the level, put down spots, and see who gets where.
#pragma once

#include "hands/walk_hand.h"
#include "house/station.h"
#include "view/ground_view.h"
#include "workplace/workplace.h"

namespace jam {

class WalkStation : public Station {
    Q_OBJECT
public:
    explicit WalkStation(House& house);
    State state() const override;
    QWidget* benchPage(QWidget* parent) override;
    QWidget* sheetPage(QWidget* parent) override;
    QList<ActionRow> commands() override;
    std::unique_ptr<Hand> takeHand(const HandEvent& press) override;
    bool putAway() override;

    void walk(WalkHand::Begin begin);
    // What was walked last, or null.
    const std::shared_ptr<const WalkRecord>& lastWalk() const { return lastWalk_; }
    void keep(std::shared_ptr<const WalkRecord> walk);

signals:
    void puttingChanged(bool on);
    void walkKept();

private:
    bool here() const { return house_.place.standpoint.station() == id(); }
    void put(bool on);
    void putAt(const std::optional<glm::dvec3>& at);
    void dropIn(const std::optional<glm::dvec3>& at);
    void dropInAt(uint32_t spot);
    void markWay(std::vector<GroundMark>& marks) const;
    void markFlags();
    void mark();

    House& house_;
    bool putting_ = false;  // a click puts down a spot
    std::shared_ptr<const WalkRecord> lastWalk_;
    std::vector<glm::dvec3> trace_;  // where that led
};

}  // namespace jam
