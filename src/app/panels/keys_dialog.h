// All keys in one place; those of commands can be changed.
#pragma once

#include <QDialog>

namespace jam {

class Actions;

class KeysDialog : public QDialog {
    Q_OBJECT
public:
    explicit KeysDialog(Actions& actions, QWidget* parent = nullptr);
};

// What hands and keys do on the ground, which cannot be changed: pairs of what and how.
QList<std::pair<QString, QString>> groundKeys();

}  // namespace jam
