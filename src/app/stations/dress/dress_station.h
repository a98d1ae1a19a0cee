// Dress: kinds of things that stand on the ground, planted by brush and by rules, or put down one by one.
#pragma once

#include "house/station.h"
#include "watch/pointed.h"
#include "workplace/workplace.h"

namespace jam {

class TakeInDialog;
struct ReadShape;

class DressStation : public Station {
    Q_OBJECT
public:
    explicit DressStation(House& house);
    State state() const override;
    QWidget* benchPage(QWidget* parent) override;
    QWidget* sheetPage(QWidget* parent) override;
    QList<ActionRow> commands() override;
    std::unique_ptr<Hand> takeHand(const HandEvent& press) override;
    bool putAway() override;
    bool takeFiles(const QStringList& paths, bool present) override;

    Pointed& pointed() { return pointed_; }

private:
    bool here() const { return house_.place.standpoint.station() == id(); }
    void addMenu(const QPoint& globalPlace);
    void kindMenu(const QPoint& globalPlace);
    // Takes a shape in from a file: as that of a kind, by its id, or as a new kind for 0.
    void askShape(uint32_t kind);
    void takeShapeIn(const QString& path, uint32_t kind);
    void makeShape(std::shared_ptr<const ReadShape> read, const TakeInDialog& dialog, uint32_t kind);
    void mark();
    void tellCount();

    House& house_;
    Pointed pointed_;
};

}  // namespace jam
