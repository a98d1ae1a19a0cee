#include "panels/tool_shelf.h"

#include <QAction>
#include <QGridLayout>
#include <QScrollArea>
#include <QScrollBar>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWheelEvent>

#include "house/station.h"
#include "looks/theme.h"
#include "looks/tool_looks.h"
#include "panels/brush_shelf.h"
#include "tools/tool.h"

namespace jam {

namespace {

constexpr int kRows = 2, kButtonHeight = 46, kGap = 3, kTipHeight = 37;

// A strip that the wheel pushes along where it does not fit.
class Strip : public QScrollArea {
public:
    Strip(QWidget* content, int height, QWidget* parent) : QScrollArea(parent) {
        setWidget(content);
        setWidgetResizable(true);
        setFixedHeight(height);
        setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    }

protected:
    void wheelEvent(QWheelEvent* e) override {
        horizontalScrollBar()->setValue(horizontalScrollBar()->value() -
                                        (e->angleDelta().y() + e->angleDelta().x()) / 2);
        e->accept();
    }
};

QWidget* toolButtons(const House& house, const QByteArray& station, int width) {
    QList<Tool> tools;
    for (int t = 0; t < kTools; ++t)
        if (stationOf(static_cast<Tool>(t)) == station) tools << static_cast<Tool>(t);
    auto* box = new QWidget;
    auto* grid = new QGridLayout(box);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(kGap);
    const int across = static_cast<int>(tools.size() + kRows - 1) / kRows;
    for (int i = 0; i < tools.size(); ++i) {
        auto* b = new QToolButton(box);
        b->setDefaultAction((*house.actions)[toolName(tools[i]).data()]);
        b->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        b->setIconSize({22, 22});
        b->setFixedSize(scaled(width), scaled(kButtonHeight));
        b->setStyleSheet("padding: 2px 0;");
        grid->addWidget(b, i / across, i % across);
    }
    grid->setColumnStretch(across, 1);
    return box;
}

QWidget* pathsAndTips(House& house) {
    auto* box = new QWidget;
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(kGap);
    for (const char* id : {"wayFree", "wayStraight", "wayCorners"}) {
        auto* b = new QToolButton(box);
        b->setDefaultAction((*house.actions)[id]);
        b->setToolButtonStyle(Qt::ToolButtonIconOnly);
        b->setIconSize({20, 20});
        b->setFixedSize(36, 36);
        row->addWidget(b);
    }
    row->addSpacing(2 * kGap);
    row->addWidget(new TipRow(house, box));
    return box;
}

}  // namespace

ToolShelf::ToolShelf(House& house, const QByteArray& station, int buttonWidth, QWidget* parent) : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(kGap);
    column->addWidget(new Strip(toolButtons(house, station, buttonWidth), kRows * scaled(kButtonHeight) + kGap, this));
    column->addWidget(new Strip(pathsAndTips(house), kTipHeight, this));
    column->addStretch();
}

}  // namespace jam
