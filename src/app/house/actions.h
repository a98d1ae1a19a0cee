// Every command of the window, made once from one table and shared by buttons, menu and keys.
#pragma once

#include <functional>
#include <QAction>
#include <QHash>
#include <QKeySequence>

namespace jam {

struct ActionRow {
    const char* id;  // never changes; keys are remembered under it
    QString text;
    const char* key;   // default; "" for none
    const char* icon;  // "" for none
    bool checkable;
    std::function<void()> run;
};

class Actions : public QObject {
    Q_OBJECT
public:
    // Actions are added to `window`, so that their keys work everywhere in it.
    Actions(const QList<ActionRow>& rows, QWidget* window);

    QAction* operator[](const char* id) const { return byId_.value(id); }
    const QList<QAction*>& all() const { return all_; }
    // Changes a key for good; an empty sequence takes it away.
    void setKey(QAction* action, const QKeySequence& key);
    // Gives every action its usual key, for good.
    void useUsualKeys();
    // The action that has this key already, or null.
    QAction* withKey(const QKeySequence& key) const;
    // After a change of theme.
    void refreshIcons();

private:
    QHash<QString, QAction*> byId_;
    QList<QAction*> all_;
};

}  // namespace jam
