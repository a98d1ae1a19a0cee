// What is offered at the start when work was ended by a crash: to take it up, to keep it for later, or to throw it
// away.
#pragma once

#include <QDialog>

#include "journal/recover.h"
#include "tasks/task.h"

class QLabel;
class QListWidget;
class QPushButton;

namespace jam {

class KeptWorkDialog : public QDialog {
    Q_OBJECT
public:
    explicit KeptWorkDialog(std::vector<KeptWork> kept, QWidget* parent = nullptr);
    ~KeptWorkDialog() override;

    // What was taken up, once accepted.
    std::optional<TakenUp> take() { return std::move(taken_); }

private:
    void choose(int row);
    void takeUp();
    void throwAwayAsked();

    std::vector<KeptWork> kept_;
    QListWidget* list_;
    QLabel *says_, *trouble_;
    QPushButton *take_, *later_, *away_;
    Task work_{Task::Priority::asked};
    std::optional<TakenUp> read_, taken_;  // of the chosen one, when it could be read
    int asked_ = -1;                       // the row that is to be thrown away, when asked once
};

}  // namespace jam
