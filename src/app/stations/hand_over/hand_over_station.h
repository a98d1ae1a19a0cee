// Hand over: the level in open formats.
#pragma once

#include <optional>

#include "files/handover.h"
#include "stations/station.h"

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

private:
    QString facts() const;

    House& house_;
    std::optional<uint64_t> handedOver_;  // history serial
};

}  // namespace jam
