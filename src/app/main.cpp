// jamhill [FILE]: opens a level, or the demo level.
#include <cstdio>
#include <QApplication>
#include <QCommandLineParser>
#include <QMessageBox>
#include <QSurfaceFormat>

#include "base/heap.h"
#include "files/layer_set.h"
#include "files/level_file.h"
#include "looks/theme.h"
#include "view/surface.h"
#include "window/kept_work_dialog.h"
#include "window/main_window.h"

using namespace jam;

namespace {

int fail(const Error& error) {
    std::fprintf(stderr, "%s\n", error.sentence().c_str());
    QMessageBox(QMessageBox::NoIcon, "Jam Hill", QString::fromStdString(error.sentence())).exec();
    return 2;
}

}  // namespace

int main(int count, char** words) {
    giveBackLargeRasters();
    QSurfaceFormat format;
    format.setRenderableType(QSurfaceFormat::OpenGL);
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    format.setStencilBufferSize(8);
    QSurfaceFormat::setDefaultFormat(format);
    QApplication app(count, words);
    QApplication::setApplicationName("jamhill");
    QApplication::setOrganizationName("jamhill");
    QApplication::setApplicationDisplayName("Jam Hill");
    QApplication::setStyle("Fusion");

    QCommandLineParser parser;
    parser.setApplicationDescription("Shapes and covers the ground of a game level.");
    parser.addHelpOption();
    parser.addPositionalArgument("FILE", "The level to open; without it, the demo level.", "[FILE]");
    const QCommandLineOption software("software", "Draw on the processor.");
    const QCommandLineOption hardware("hardware", "Draw on the graphics card.");
    parser.addOptions({software, hardware});
    parser.process(app);

    applyTheme(rememberedTheme());
    const std::filesystem::path share = shareFolder();
    if (share.empty())
        return fail(
            {"", "share", "the folder with the sample layers was not found", "set JAMHILL_SHARE, or build again"});
    Result<std::vector<Layer>> layers = readLayerSet(share / "layers");
    if (!layers) return fail(layers.error());

    // Before anything else: what was not saved when the program ended.
    std::optional<TakenUp> taken;
    if (std::vector<KeptWork> kept = keptWork(journalFolder()); !kept.empty()) {
        KeptWorkDialog offer(std::move(kept));
        if (offer.exec() == QDialog::Accepted) taken = offer.take();
    }
    const QStringList files = parser.positionalArguments();
    const std::filesystem::path path = files.isEmpty() ? share / "demo" / "damson-down.jamhill"
                                                       : std::filesystem::path(files.front().toStdString());
    Result<Level> level = taken ? taken->history.now() : loadLevel(path);
    if (!level) return fail(level.error());

    Result<std::unique_ptr<Surface>> surface = makeSurface(parser.isSet(software)   ? Drawing::software
                                                           : parser.isSet(hardware) ? Drawing::hardware
                                                                                    : Drawing::automatic,
                                                           nullptr);
    if (!surface) return fail(surface.error());
    const QString opened = files.isEmpty() ? QString() : files.front();
    Workplace place(level.value(), QString::fromStdString(level.value().name));
    Document& document = place.document;
    if (opened.isEmpty() || taken)
        document.markSaved({}, document.history().serial(),
                           document.standing());  // the demo is a copy; Save asks where to
    else document.open(level.take(), opened, "Open");
    MainWindow window(place, layers.take(), surface.take(), journalFolder());
    if (taken) window.keeping().goOn(std::move(*taken));
    window.show();
    return QApplication::exec();
}
