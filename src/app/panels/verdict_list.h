// What the checks of all stations find: a click goes there, and what can be mended is mended beside the window. Nothing
// is seen of it while they find nothing.
#pragma once

#include <QWidget>

#include "watch/verdicts.h"

class QHBoxLayout;
class QListWidget;

namespace jam {

struct House;

class VerdictList : public QWidget {
    Q_OBJECT
public:
    explicit VerdictList(House& house, QWidget* parent = nullptr);

private:
    void follow();
    // The finding of the row that is chosen, with its check; null when none is.
    const Finding* chosen() const;
    void showMends();
    void visit();

    House& house_;
    std::vector<Finding> found_;  // by rows
    QListWidget* list_;
    QWidget* mends_;
    QHBoxLayout* buttons_;
};

}  // namespace jam
