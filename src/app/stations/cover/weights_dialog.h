// Weights from pictures: which channel weighs which layer.
#pragma once

#include <QDialog>

#include "files/weights_file.h"

class QComboBox;

namespace jam {

class WeightsDialog : public QDialog {
    Q_OBJECT
public:
    // One row for each channel of `files`; `guess` is chosen at first.
    WeightsDialog(const Level& level, const std::vector<std::pair<std::filesystem::path, int>>& files,
                  const std::vector<WeightChannel>& guess, QWidget* parent = nullptr);
    std::vector<WeightChannel> channels() const;

private:
    struct Row {
        std::filesystem::path file;
        int channel;
        QComboBox* layer;
    };
    std::vector<Row> rows_;
};

}  // namespace jam
