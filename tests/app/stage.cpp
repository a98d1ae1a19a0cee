#include "stage.h"

#include <catch2/catch.hpp>
#include <cstdlib>
#include <QApplication>
#include <QDeadlineTimer>
#include <QDialog>
#include <QDragEnterEvent>
#include <QGuiApplication>
#include <QMimeData>
#include <QScreen>
#include <QTimer>

#include "level/ground.h"
#include "levels.h"

namespace jam::test {

namespace {

constexpr int kLongestWait = 60'000;  // ms; what takes that long on a slow and busy machine hangs

std::unique_ptr<Surface> surface() {
    auto s = makeSurface(Drawing::automatic, nullptr);
    if (!s) {
        std::fprintf(stderr, "%s\n", s.error().sentence().c_str());
        std::abort();
    }
    return s.take();
}

std::vector<Layer> shipped() { return {plainLayer("Clay", 150, 90, 60), plainLayer("Fern", 40, 120, 40)}; }

}  // namespace

Stage::Stage(Level level, const std::filesystem::path& journals)
    : place(std::move(level)), window(place, shipped(), surface(), journals) {
    window.setQuiet(true);
    view().setPasses(0);  // a picture that is sharp is the same each time
    window.resize(1100, 720);
    window.show();
    if (!QTest::qWaitForWindowExposed(&window)) std::abort();
    window.activateWindow();
    canvas()->setFocus();
    settle();
}

Stage::~Stage() {
    window.work().cancel();
    window.work().wait();
}

void Stage::settle() {
    QTest::qWait(30);
    CHECK(waitFor([this] {
        return view().settled() && !window.surveyor().busy() && !place.document.catchingUp() &&
               !window.work().running() && Task::underWay() == 0;
    }));
}

bool Stage::waitFor(const std::function<bool()>& so) {
    const QDeadlineTimer end(kLongestWait);
    while (!so() && !end.hasExpired()) QTest::qWait(20);
    return so();
}

QImage Stage::picture() {
    settle();
    return view().refinedPicture();
}

QImage Stage::screen() {
    settle();
    return QGuiApplication::primaryScreen()->grabWindow(0).toImage();
}

QPoint Stage::pixelOf(double x, double z) {
    const auto p = view().camera().pixel({x, altitudeAt(place.document.level(), x, z), z});
    return p ? QPoint(static_cast<int>(p->x), static_cast<int>(p->y)) : QPoint(-1, -1);
}

void Stage::press(const QPoint& at, Qt::KeyboardModifiers modifiers, Qt::MouseButton button) {
    QTest::mousePress(canvas(), button, modifiers, at);
}

void Stage::move(const QPoint& to, Qt::MouseButton held) {
    QMouseEvent e(QEvent::MouseMove, to, canvas()->mapToGlobal(to), Qt::NoButton, held, {});
    QCoreApplication::sendEvent(canvas(), &e);
}

void Stage::release(const QPoint& at, Qt::MouseButton button) { QTest::mouseRelease(canvas(), button, {}, at); }

void Stage::drag(const QPoint& from, const QPoint& to, Qt::KeyboardModifiers modifiers, Qt::MouseButton button) {
    press(from, modifiers, button);
    for (int i = 1; i <= 10; ++i) {
        move(from + (to - from) * i / 10, button);
        QTest::qWait(5);
    }
    release(to, button);
}

void Stage::answer(std::function<void(QWidget*)> with) {
    auto* timer = new QTimer(&window);
    QObject::connect(timer, &QTimer::timeout, &window, [timer, with] {
        QWidget* open = QApplication::activePopupWidget() ? QApplication::activePopupWidget()
                                                          : QApplication::activeModalWidget();
        if (!open) return;
        timer->stop();
        timer->deleteLater();
        with(open);
    });
    timer->start(20);
}

void Stage::loseFocus() {
    QFocusEvent lost(QEvent::FocusOut);
    QCoreApplication::sendEvent(canvas(), &lost);
}

void Stage::dismissDialog() {
    answer([](QWidget* open) { static_cast<QDialog*>(open)->reject(); });
    window.actions()["keys"]->trigger();
}

void Stage::drop(const QStringList& paths) {
    QMimeData data;
    QList<QUrl> urls;
    for (const QString& p : paths) urls << QUrl::fromLocalFile(p);
    data.setUrls(urls);
    QDragEnterEvent enter({50, 50}, Qt::CopyAction, &data, Qt::LeftButton, {});
    QCoreApplication::sendEvent(&window, &enter);
    if (!enter.isAccepted()) return;
    QDropEvent drop({50, 50}, Qt::CopyAction, &data, Qt::LeftButton, {});
    QCoreApplication::sendEvent(&window, &drop);
    settle();
}

}  // namespace jam::test
