// The real window on a small level, driven by mouse and keys.
#pragma once

#include <functional>
#include <memory>
#include <QImage>
#include <QTest>

#include "window/main_window.h"

namespace jam::test {

class Stage {
public:
    // With a folder, work is kept safe there.
    explicit Stage(Level level, const std::filesystem::path& journals = {});
    ~Stage();

    Workplace place;
    MainWindow window;

    GroundView& view() { return *window.view(); }
    QWidget* canvas() { return window.view(); }
    // Waits until drawing, surveys and jobs have come to rest.
    void settle();
    // Handles events until it is so; false when it is not after a minute.
    bool waitFor(const std::function<bool()>& so);
    QImage picture();  // of the ground, without marks
    QImage screen();   // of the whole window as it is on the screen
    // Logical pixel of a place on the ground.
    QPoint pixelOf(double x, double z);
    void press(const QPoint& at, Qt::KeyboardModifiers modifiers = {}, Qt::MouseButton button = Qt::LeftButton);
    void move(const QPoint& to, Qt::MouseButton held = Qt::LeftButton);
    void release(const QPoint& at, Qt::MouseButton button = Qt::LeftButton);
    void drag(const QPoint& from, const QPoint& to, Qt::KeyboardModifiers modifiers = {},
              Qt::MouseButton button = Qt::LeftButton);
    // Drops files on the window.
    void drop(const QStringList& paths);
    void drop(const QString& path) { drop(QStringList{path}); }
    // Does something with the next dialog or menu that opens, as soon as it is there; then it is the person's turn
    // again.
    void answer(std::function<void(QWidget*)> with);
    // The view loses the keyboard: sent, because without a window manager no window is ever given the focus again.
    void loseFocus();
    // A dialog comes and is dismissed.
    void dismissDialog();
    // The one of this name that is seen at the present station.
    template <class W>
    W* find(const char* id) {
        for (W* w : window.findChildren<W*>(id))
            if (w->isVisible()) return w;
        qFatal("nothing is seen of \"%s\"", id);
    }
    void key(int key, Qt::KeyboardModifiers modifiers = {}) {
        // Without a window manager nobody gives the keyboard back to a window that gave way to a dialog.
        if (!QApplication::activeModalWidget() && !QApplication::activePopupWidget() && !window.isActiveWindow()) {
            window.activateWindow();
            (void)QTest::qWaitForWindowActive(&window);
        }
        QTest::keyClick(canvas(), static_cast<Qt::Key>(key), modifiers);
    }
};

}  // namespace jam::test
