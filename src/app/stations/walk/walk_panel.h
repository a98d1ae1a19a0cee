// Walks: the last one, kept as a file, walked again; and going along the way that is shown.
#pragma once

#include <QWidget>

class QLabel;
class QPushButton;

namespace jam {

struct House;
class WalkStation;

class WalkPanel : public QWidget {
    Q_OBJECT
public:
    WalkPanel(House& house, WalkStation& station, QWidget* parent);

private:
    void refresh();
    void save();
    void open();

    House& house_;
    WalkStation& station_;
    QLabel* last_;
    QPushButton *again_, *save_, *along_;
};

}  // namespace jam
