#include "panels/keys_dialog.h"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QKeySequenceEdit>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include "actions.h"
#include "theme.h"

namespace jam {

QList<std::pair<QString, QString>> groundKeys() {
    const auto t = [](const char* s) { return KeysDialog::tr(s); };
    return {{t("Use the brush"), t("left drag; hold still to go on")},
            {t("Invert the brush"), t("Shift with left drag")},
            {t("Take height or layer"), t("Alt with left click")},
            {t("Take the stroke back"), t("Esc while stroking")},
            {t("Travel"), t("W A S D, Q down, E up")},
            {t("Look round"), t("right drag")},
            {t("Turn about a place"), t("Ctrl with right drag")},
            {t("Go towards the cursor"), t("wheel")},
            {t("Slide over the ground"), t("middle drag")}};
}

KeysDialog::KeysDialog(Actions& actions, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Keys"));
    resize(560, 640);
    auto* all = new QVBoxLayout(this);
    auto* table = new QTableWidget(this);
    table->setColumnCount(2);
    table->horizontalHeader()->hide();
    table->verticalHeader()->hide();
    table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    table->setColumnWidth(1, 230);
    table->setShowGrid(false);
    table->setFocusPolicy(Qt::NoFocus);
    table->setSelectionMode(QAbstractItemView::NoSelection);
    table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    auto* said = new QLabel(tr("Click into a field and press the new key."), this);
    said->setProperty("quiet", true);
    const auto addRow = [table](const QString& name) {
        const int row = table->rowCount();
        table->insertRow(row);
        table->setRowHeight(row, 32);
        table->setItem(row, 0, new QTableWidgetItem(name));
        return row;
    };
    for (const auto& [what, how] : groundKeys()) table->setItem(addRow(what), 1, new QTableWidgetItem(how));
    for (QAction* a : actions.all()) {
        const int row = addRow(a->text());
        auto* edit = new QKeySequenceEdit(a->shortcut(), table);
        edit->setObjectName("key-" + a->objectName());
        // Keys are read first and changed on purpose: only a click gives the field the keyboard.
        edit->setFocusPolicy(Qt::ClickFocus);
        table->setCellWidget(row, 1, edit);
        connect(edit, &QKeySequenceEdit::editingFinished, this, [=, &actions] {
            const QKeySequence key = edit->keySequence();
            if (key == a->shortcut()) return;
            if (const QAction* other = actions.withKey(key)) {
                said->setText(tr("%1 is taken by “%2”; choose another.")
                                  .arg(key.toString(QKeySequence::NativeText), other->text()));
                edit->setKeySequence(a->shortcut());
                return;
            }
            actions.setKey(a, key);
            said->setText(tr("“%1” is on %2 now.")
                              .arg(a->text(), key.isEmpty() ? tr("no key") : key.toString(QKeySequence::NativeText)));
        });
    }
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    all->addWidget(table);
    all->addWidget(said);
    all->addWidget(buttons);
    buttons->button(QDialogButtonBox::Close)->setFocus();
}

}  // namespace jam
