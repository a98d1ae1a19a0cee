// Hand over: the level in open formats.
#pragma once

#include <optional>

#include "handover/handover.h"
#include "house/station.h"

class QVBoxLayout;

namespace jam {

class HandOverStation : public Station {
    Q_OBJECT
public:
    explicit HandOverStation(House& house);
    State state() const override;
    QWidget* benchPage(QWidget* parent) override;
    QWidget* sheetPage(QWidget* parent) override;

    // Writes the level as it stands, never a preview, off the interface thread.
    void handOverTo(const QString& folder, const HandoverWish& wish);

signals:
    void wishChanged();

private:
    QString facts() const;
    void addWriter(const Writer& writer, QWidget* page, QVBoxLayout* column);

    House& house_;
    HandoverWish wish_;
    std::optional<uint64_t> handedOver_;  // history serial
};

}  // namespace jam
