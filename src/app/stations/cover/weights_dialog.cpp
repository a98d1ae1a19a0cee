#include "stations/cover/weights_dialog.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include "looks/theme.h"

namespace jam {

WeightsDialog::WeightsDialog(const Level& level, const std::vector<std::pair<std::filesystem::path, int>>& files,
                             const std::vector<WeightChannel>& guess, QWidget* parent)
    : QDialog(parent) {
    setWindowTitle(tr("Weights from pictures"));
    auto* all = new QVBoxLayout(this);
    auto* says = new QLabel(
        tr("Each channel says how much one layer shows. The pictures have to be as large as the cover, %1 × %2. "
           "Layers without a channel will show nowhere.")
            .arg(level.coverColumns())
            .arg(level.coverRows()),
        this);
    says->setWordWrap(true);
    all->addWidget(says);
    auto* scroll = new QScrollArea(this);
    auto* box = new QWidget(scroll);
    auto* form = new QFormLayout(box);
    for (const auto& [file, channels] : files)
        for (int c = 0; c < channels; ++c) {
            auto* layer = new QComboBox(box);
            layer->addItem(tr("Not used"), 0u);
            for (const Layer& l : level.layers) layer->addItem(QString::fromStdString(l.name), l.id);
            for (const WeightChannel& g : guess)
                if (g.file == file && g.channel == c) layer->setCurrentIndex(layer->findData(g.layer));
            const QString name = QString::fromStdString(file.filename().string());
            const QString names[] = {tr("red"), tr("green"), tr("blue"), tr("alpha")};
            form->addRow(channels == 1 ? name : tr("%1, %2").arg(name, names[c]), layer);
            rows_.push_back({file, c, layer});
        }
    scroll->setWidget(box);
    scroll->setWidgetResizable(true);
    scroll->setMinimumSize(430, std::min(320, scaled(44) * static_cast<int>(rows_.size()) + 24));
    all->addWidget(scroll);
    auto* foot = new QDialogButtonBox(this);
    foot->addButton(tr("Take the weights in"), QDialogButtonBox::AcceptRole);
    foot->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    connect(foot, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(foot, &QDialogButtonBox::rejected, this, &QDialog::reject);
    all->addWidget(foot);
}

std::vector<WeightChannel> WeightsDialog::channels() const {
    std::vector<WeightChannel> out;
    for (const Row& r : rows_)
        if (const uint32_t id = r.layer->currentData().toUInt()) out.push_back({r.file, r.channel, id});
    return out;
}

}  // namespace jam
