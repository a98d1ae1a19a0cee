// The kinds as pictures, with how many stand of each; those that come first are kept off by those after them.
#pragma once

#include <QWidget>

#include "workplace/workplace.h"

namespace jam {

class Surveyor;

class KindStrip : public QWidget {
    Q_OBJECT
public:
    KindStrip(Workplace& place, const Surveyor& surveyor, QWidget* parent = nullptr);
    QSize sizeHint() const override;
    QRect tile(int index) const;  // the one past the last is the add button; empty when the search hides it
    // Only kinds whose names hold this are shown.
    void search(const QString& text);

signals:
    void addWanted(const QPoint& globalPlace);
    void menuWanted(const QPoint& globalPlace);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    bool event(QEvent*) override;

private:
    int count() const { return static_cast<int>(place_.document.level().kinds.size()); }
    bool shows(int index) const;
    int indexAt(const QPoint& pixel) const;
    QString countOf(int index) const;
    void again();

    Workplace& place_;
    const Surveyor& surveyor_;
    QString search_;
};

}  // namespace jam
