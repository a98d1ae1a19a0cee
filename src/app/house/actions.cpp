#include "house/actions.h"

#include <QSettings>
#include <QWidget>

#include "looks/theme.h"

namespace jam {

Actions::Actions(const QList<ActionRow>& rows, QWidget* window) : QObject(window) {
    const QSettings settings;
    for (const ActionRow& row : rows) {
        auto* a = new QAction(row.text, window);
        a->setObjectName(row.id);
        a->setCheckable(row.checkable);
        const QString key = settings.value(QString("keys/") + row.id, QString(row.key)).toString();
        a->setShortcut(QKeySequence(key, QKeySequence::PortableText));
        a->setToolTip(key.isEmpty() ? row.text
                                    : row.text + "  (" + a->shortcut().toString(QKeySequence::NativeText) + ")");
        a->setProperty("iconName", row.icon);
        a->setProperty("usualKey", QString(row.key));
        QObject::connect(a, &QAction::triggered, window, [run = row.run] { run(); });
        window->addAction(a);
        byId_[row.id] = a;
        all_ << a;
    }
    refreshIcons();
}

void Actions::setKey(QAction* action, const QKeySequence& key) {
    action->setShortcut(key);
    action->setToolTip(key.isEmpty() ? action->text()
                                     : action->text() + "  (" + key.toString(QKeySequence::NativeText) + ")");
    QSettings().setValue("keys/" + action->objectName(), key.toString(QKeySequence::PortableText));
}

void Actions::useUsualKeys() {
    for (QAction* a : all_) setKey(a, QKeySequence(a->property("usualKey").toString(), QKeySequence::PortableText));
}

QAction* Actions::withKey(const QKeySequence& key) const {
    for (QAction* a : all_)
        if (!key.isEmpty() && a->shortcut() == key) return a;
    return nullptr;
}

void Actions::refreshIcons() {
    for (QAction* a : all_) {
        const QString name = a->property("iconName").toString();
        if (!name.isEmpty()) a->setIcon(icon(name));
    }
}

}  // namespace jam
