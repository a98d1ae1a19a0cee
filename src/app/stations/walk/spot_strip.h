// The spots on the bench: one card each, who goes, and what drops one into the level.
#pragma once

#include <QWidget>

class QComboBox;
class QListWidget;
class QPushButton;

namespace jam {

struct House;

class SpotStrip : public QWidget {
    Q_OBJECT
public:
    explicit SpotStrip(House& house, QWidget* parent);
    void showPutting(bool on);

signals:
    void putWanted(bool on);
    void dropInWanted();

protected:
    void showEvent(QShowEvent* e) override;

private:
    void fill();
    void refresh();
    void choose();

    House& house_;
    QListWidget* list_;
    QPushButton *put_, *drop_;
    QComboBox* body_;
};

}  // namespace jam
