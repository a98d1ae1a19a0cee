#include "panels/dialog_foot.h"

#include <QDialog>
#include <QDialogButtonBox>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "looks/theme.h"

namespace jam {

DialogFoot addFoot(QDialog* dialog, QVBoxLayout* column) {
    DialogFoot foot{};
    foot.cost = new QLabel(dialog);
    foot.cost->setObjectName("cost");
    foot.cost->setProperty("quiet", true);
    foot.wrong = new QLabel(dialog);
    foot.wrong->setObjectName("wrong");
    foot.wrong->setStyleSheet(QString("color: %1;").arg(theme().warns.name()));
    for (QLabel* l : {foot.cost, foot.wrong}) {
        l->setWordWrap(true);
        column->addWidget(l);
    }
    auto* buttons = new QDialogButtonBox(dialog);
    foot.make = buttons->addButton(QDialog::tr("Make level"), QDialogButtonBox::AcceptRole);
    foot.make->setObjectName("make");
    foot.make->setDefault(true);
    buttons->addButton(QDialog::tr("Cancel"), QDialogButtonBox::RejectRole);
    column->addWidget(buttons);
    QObject::connect(buttons, &QDialogButtonBox::accepted, dialog, &QDialog::accept);
    QObject::connect(buttons, &QDialogButtonBox::rejected, dialog, &QDialog::reject);
    return foot;
}

void tellWrong(const DialogFoot& foot, const QString& wrong) {
    QString sentence = wrong;
    if (!sentence.isEmpty()) sentence[0] = sentence[0].toUpper();
    foot.wrong->setText(sentence);
    foot.wrong->setVisible(!sentence.isEmpty());
    foot.make->setEnabled(sentence.isEmpty());
}

}  // namespace jam
