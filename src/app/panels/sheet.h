// The sheet: the details of what is chosen, page by page, and below them the list of what was done.
#pragma once

#include <QWidget>

#include "house/station.h"

class QListWidget;

namespace jam {

class Sheet : public QWidget {
    Q_OBJECT
public:
    Sheet(House& house, const std::vector<std::unique_ptr<Station>>& stations, QWidget* parent = nullptr);
    QListWidget* historyList() const { return history_; }

private:
    void showHistory();

    House& house_;
    QListWidget* history_;
};

}  // namespace jam
