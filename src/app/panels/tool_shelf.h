// The tools of a station as buttons, in two rows however many there are, and below them how strokes are drawn and the
// tips.
#pragma once

#include <QWidget>

namespace jam {

struct House;

class ToolShelf : public QWidget {
    Q_OBJECT
public:
    ToolShelf(House& house, const QByteArray& station, int buttonWidth, QWidget* parent = nullptr);
};

}  // namespace jam
