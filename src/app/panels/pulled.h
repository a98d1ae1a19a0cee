// A widget in which things are pulled with the left button: a knob, a post, a row. Like a hand on the ground it is let
// go at every moment that ends hands: Esc takes back what it did; another window, another level and a page that goes
// keep it.
#pragma once

#include <QWidget>

namespace jam {

class Document;

class Pulled : public QWidget {
public:
    explicit Pulled(Document& document, QWidget* parent = nullptr);
    ~Pulled() override;

    bool pulling() const { return pulling_; }

protected:
    // Takes what lies there; false when there is nothing to pull.
    virtual bool take(const QPointF& pixel) = 0;
    virtual void pull(const QPointF& pixel) = 0;
    // Let go: what it did stays, or is as it was before.
    virtual void end(bool keep) = 0;
    // The mouse moves over it with nothing in hand.
    virtual void hover(const QPointF&) {}

    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) final;
    void mouseReleaseEvent(QMouseEvent* e) final;
    void hideEvent(QHideEvent* e) override;
    bool eventFilter(QObject* watched, QEvent* e) override;

private:
    void letGo(bool keep);

    bool pulling_ = false;
};

}  // namespace jam
