// Lay out: how large the level is, how fine, and what it starts from.
#pragma once

#include "house/station.h"

namespace jam {

class ImportDialog;

class LayOutStation : public Station {
    Q_OBJECT
public:
    explicit LayOutStation(House& house);
    State state() const override;
    QWidget* benchPage(QWidget* parent) override;
    QWidget* sheetPage(QWidget* parent) override;
    QList<ActionRow> commands() override;
    bool takeFiles(const QStringList& paths, bool present) override;

private:
    void newLevel();
    void importHeightmap();
    void importPicture(const QString& path);
    void placeField(const ImportDialog& dialog);
    void makeFromField(const ImportDialog& dialog, const QString& path, uint64_t asked);
    void startWith(ReadyLevel level, const QString& what, uint64_t asked);
    void changeCover(int factor);

    House& house_;
};

}  // namespace jam
