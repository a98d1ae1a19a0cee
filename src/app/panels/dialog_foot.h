// What dialogs that make a level end with: the cost, what is wrong, and the buttons.
#pragma once

class QDialog;
class QLabel;
class QPushButton;
class QString;
class QVBoxLayout;

namespace jam {

struct DialogFoot {
    QLabel *cost, *wrong;
    QPushButton* make;
};

// Adds them below `column`; the buttons accept and reject the dialog.
DialogFoot addFoot(QDialog* dialog, QVBoxLayout* column);
// Shows a sentence, or nothing, and lets the level be made only without one.
void tellWrong(const DialogFoot& foot, const QString& wrong);

}  // namespace jam
