#include "panels/keys_dialog.h"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QTableWidget>
#include <QVBoxLayout>

#include "house/actions.h"
#include "looks/theme.h"
#include "panels/page.h"

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
            {t("Slide over the ground"), t("middle drag")},
            {t("On foot"), t("W A S D, Shift runs, Space jumps, C dives; the mouse looks")},
            {t("Back from a walk"), t("Esc; Enter begins it again")}};
}

// --- one key ------------------------------------------------------------------------------------------------------

KeyButton::KeyButton(QWidget* parent) : QPushButton(parent) {
    setAutoDefault(false);
    setCheckable(true);
    setToolTip(tr("Click, then press the new key. Delete takes the key away, Esc leaves it as it is."));
    connect(this, &QPushButton::clicked, this, [this] { wait(true); });
}

void KeyButton::setKey(const QKeySequence& key) {
    key_ = key;
    wait(false);
}

void KeyButton::wait(bool on) {
    waits_ = on;
    setText(on ? tr("press a key") : key_.isEmpty() ? tr("no key") : key_.toString(QKeySequence::NativeText));
    setChecked(on);  // shown as active while it waits
}

bool KeyButton::event(QEvent* e) {
    if (!waits_ || (e->type() != QEvent::KeyPress && e->type() != QEvent::ShortcutOverride))
        return QPushButton::event(e);
    e->accept();
    if (e->type() == QEvent::KeyPress) take(*static_cast<QKeyEvent*>(e));
    return true;
}

void KeyButton::take(const QKeyEvent& e) {
    const int key = e.key();
    for (const Qt::Key held :
         {Qt::Key_Shift, Qt::Key_Control, Qt::Key_Alt, Qt::Key_Meta, Qt::Key_AltGr, Qt::Key_unknown})
        if (key == held || key == 0) return;  // the key itself is still to come
    wait(false);
    if (key == Qt::Key_Escape) return;
    const bool gone = e.modifiers() == Qt::NoModifier && (key == Qt::Key_Delete || key == Qt::Key_Backspace);
    // What Shift makes of a key is its own character already, except for letters and named keys.
    emit chosen(gone ? QKeySequence()
                     : QKeySequence(QKeyCombination(e.modifiers() & ~Qt::KeypadModifier, Qt::Key(key))));
}

void KeyButton::focusOutEvent(QFocusEvent* e) {
    wait(false);
    QPushButton::focusOutEvent(e);
}

// --- the dialog ---------------------------------------------------------------------------------------------------

KeysDialog::KeysDialog(Actions& actions, QWidget* parent) : QDialog(parent), actions_(actions) {
    setWindowTitle(tr("Keys"));
    resize(620, 660);
    auto* all = new QVBoxLayout(this);
    auto* search = new QLineEdit(this);
    search->setObjectName("search");
    search->setPlaceholderText(tr("Search what it does, or a key"));
    search->setClearButtonEnabled(true);
    all->addWidget(search);
    all->addWidget(headingLabel(tr("What the hand does on the ground"), this));
    hand_ = table("hand");
    fillHand(hand_);
    all->addWidget(hand_, 2);
    all->addWidget(headingLabel(tr("Keys of commands: click one to change it"), this));
    commands_ = table("commands");
    fillCommands(commands_);
    all->addWidget(commands_, 5);
    said_ = new QLabel(this);
    said_->setObjectName("said");
    said_->setProperty("quiet", true);
    said_->setWordWrap(true);
    all->addWidget(said_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    auto* usual = buttons->addButton(tr("Back to the usual keys"), QDialogButtonBox::ResetRole);
    usual->setObjectName("usualKeys");
    usual->setAutoDefault(false);
    all->addWidget(buttons);
    connect(search, &QLineEdit::textChanged, this, &KeysDialog::find);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(usual, &QPushButton::clicked, this, [this] {
        actions_.useUsualKeys();
        for (auto b = buttons_.begin(); b != buttons_.end(); ++b) b.value()->setKey(b.key()->shortcut());
        said_->setText(tr("All keys are the usual ones again."));
    });
    buttons->button(QDialogButtonBox::Close)->setDefault(true);
    buttons->button(QDialogButtonBox::Close)->setFocus();
}

QTableWidget* KeysDialog::table(const char* id) {
    auto* t = new QTableWidget(0, 2, this);
    t->setObjectName(id);
    t->horizontalHeader()->hide();
    t->verticalHeader()->hide();
    t->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    t->setColumnWidth(1, 220);
    t->setShowGrid(false);
    t->setFocusPolicy(Qt::NoFocus);
    t->setSelectionMode(QAbstractItemView::NoSelection);
    t->setEditTriggers(QAbstractItemView::NoEditTriggers);
    return t;
}

namespace {
int addRow(QTableWidget* table, const QString& name) {
    const int row = table->rowCount();
    table->insertRow(row);
    table->setRowHeight(row, 32);
    table->setItem(row, 0, new QTableWidgetItem(name));
    table->item(row, 0)->setToolTip(name);
    return row;
}
}  // namespace

void KeysDialog::fillHand(QTableWidget* t) {
    for (const auto& [what, how] : groundKeys()) {
        const int row = addRow(t, what);
        t->setItem(row, 1, new QTableWidgetItem(how));
        t->setRowHeight(row, 25);
    }
}

void KeysDialog::fillCommands(QTableWidget* t) {
    for (QAction* a : actions_.all()) {
        const int row = addRow(t, a->text());
        auto* b = new KeyButton(t);
        b->setObjectName("key-" + a->objectName());
        b->setAccessibleName(a->text());
        b->setKey(a->shortcut());
        buttons_[a] = b;
        t->setCellWidget(row, 1, b);
        connect(b, &KeyButton::chosen, this, [this, a](const QKeySequence& key) { choose(a, key); });
    }
}

void KeysDialog::choose(QAction* a, const QKeySequence& key) {
    if (key == a->shortcut()) return;
    const QString pressed = key.toString(QKeySequence::NativeText);
    if (const QString use = fixedUseOf(key); !use.isEmpty()) {
        said_->setText(tr("%1 is for the hand (%2); “%3” keeps its key.").arg(pressed, use, a->text()));
        return;
    }
    QString more;
    if (QAction* other = actions_.withKey(key)) {
        // One key, one command; what had it keeps it unless that is meant.
        if (asked_ != std::pair(a, key)) {
            asked_ = {a, key};
            said_->setText(tr("%1 is taken by “%2”. Choose another, or the same once more to take it away from there.")
                               .arg(pressed, other->text()));
            return;
        }
        actions_.setKey(other, {});
        buttons_[other]->setKey({});
        more = " " + tr("“%1” had it and has none now.").arg(other->text());
    }
    asked_ = {};
    actions_.setKey(a, key);
    buttons_[a]->setKey(key);
    said_->setText(tr("“%1” is on %2 now.").arg(a->text(), key.isEmpty() ? tr("no key") : pressed) + more);
}

void KeysDialog::find(const QString& searched) {
    const QString s = searched.trimmed();
    for (QTableWidget* t : {hand_, commands_})
        for (int row = 0; row < t->rowCount(); ++row) {
            const auto* b = qobject_cast<KeyButton*>(t->cellWidget(row, 1));
            const QString key = b ? b->text() : t->item(row, 1)->text();
            t->setRowHidden(row, !t->item(row, 0)->text().contains(s, Qt::CaseInsensitive) &&
                                     !key.contains(s, Qt::CaseInsensitive));
        }
}

QString fixedUseOf(const QKeySequence& key) {
    if (key.isEmpty()) return {};
    const QKeyCombination k = key[0];
    if (k.keyboardModifiers() & (Qt::ControlModifier | Qt::AltModifier)) return {};
    if (QString("WASDQE").contains(QKeySequence(k.key()).toString())) return KeysDialog::tr("travel");
    if (k.key() == Qt::Key_Escape) return KeysDialog::tr("taking back");
    return {};
}

}  // namespace jam
