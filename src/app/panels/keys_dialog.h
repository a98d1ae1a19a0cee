// All keys in one place: what the hand does on the ground, and the keys of commands, which can be changed.
#pragma once

#include <QDialog>
#include <QHash>
#include <QKeySequence>
#include <QPushButton>

class QAction;
class QLabel;
class QTableWidget;

namespace jam {

class Actions;

// Shows a key, and takes the next one that is pressed after it was clicked. Keys are read first and changed on purpose:
// until then it does nothing with the keyboard.
class KeyButton : public QPushButton {
    Q_OBJECT
public:
    explicit KeyButton(QWidget* parent = nullptr);
    void setKey(const QKeySequence& key);
    bool waits() const { return waits_; }

signals:
    // Empty for no key (Delete or Backspace was pressed).
    void chosen(const QKeySequence& key);

protected:
    bool event(QEvent*) override;  // a dialog's own keys come as key presses too
    void focusOutEvent(QFocusEvent*) override;

private:
    void wait(bool on);
    void take(const QKeyEvent& e);

    QKeySequence key_;
    bool waits_ = false;
};

class KeysDialog : public QDialog {
    Q_OBJECT
public:
    explicit KeysDialog(Actions& actions, QWidget* parent = nullptr);

private:
    QTableWidget* table(const char* id);
    void fillHand(QTableWidget* table);
    void fillCommands(QTableWidget* table);
    void choose(QAction* action, const QKeySequence& key);
    void find(const QString& searched);

    Actions& actions_;
    QTableWidget *hand_, *commands_;
    QHash<QAction*, KeyButton*> buttons_;
    QLabel* said_;
    std::pair<QAction*, QKeySequence> asked_{nullptr, {}};  // a taken key that was chosen, once
};

// What hands and keys do on the ground, which cannot be changed: pairs of what and how.
QList<std::pair<QString, QString>> groundKeys();
// What the hand needs a key for, so that no command may have it; empty when it is free.
QString fixedUseOf(const QKeySequence& key);

}  // namespace jam
