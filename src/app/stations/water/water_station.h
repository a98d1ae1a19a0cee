// Water: pools that fill hollows, streams along courses, and where they leak.
#pragma once

#include "edits/water_edits.h"
#include "house/station.h"

namespace jam {

class WaterStation : public Station {
    Q_OBJECT
public:
    explicit WaterStation(House& house);
    State state() const override;
    QWidget* benchPage(QWidget* parent) override;
    QWidget* sheetPage(QWidget* parent) override;
    QList<ActionRow> commands() override;
    std::unique_ptr<Hand> takeHand(const HandEvent& press) override;
    bool putAway() override;

private:
    bool here() const { return house_.place.standpoint.station() == id(); }
    // Fills the hollow at a place, or the pool there to its next brim.
    void fill(const glm::dvec3& at, bool next);
    void draw(bool streams);
    void chooseNew();
    void mark();

    House& house_;
    std::vector<uint32_t> known_;  // ids of pools while a hollow is being filled
};

}  // namespace jam
