// The pools and streams on the bench: one card each, and what makes more of them.
#pragma once

#include <QWidget>

class QListWidget;
class QPushButton;

namespace jam {

struct House;

class WaterStrip : public QWidget {
    Q_OBJECT
public:
    explicit WaterStrip(House& house, QWidget* parent);

signals:
    void seaWanted();
    void streamWanted(bool on);

protected:
    void showEvent(QShowEvent* e) override;

private:
    void fill();
    void refresh();
    void choose();

    House& house_;
    QListWidget* list_;
    QPushButton *stream_, *flow_;
};

}  // namespace jam
