// Light: where the sun stands.
#pragma once

#include "house/station.h"

namespace jam {

class LightStation : public Station {
    Q_OBJECT
public:
    explicit LightStation(House& house);
    State state() const override;
    QWidget* benchPage(QWidget* parent) override;
    QWidget* sheetPage(QWidget* parent) override;

private:
    House& house_;
};

}  // namespace jam
