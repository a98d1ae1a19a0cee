#define CATCH_CONFIG_RUNNER
#include <QApplication>
#include <QSettings>
#include <QStandardPaths>
#include <QSurfaceFormat>
#include <QTemporaryDir>
#include <catch2/catch.hpp>

#include "theme.h"

int main(int count, char** words) {
    QTemporaryDir settings;
    qputenv("XDG_CONFIG_HOME", settings.path().toLocal8Bit());
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    QSurfaceFormat::setDefaultFormat(format);
    QApplication app(count, words);
    QApplication::setApplicationName("jamhill-tests");
    QApplication::setOrganizationName("jamhill-tests");
    QApplication::setStyle("Fusion");
    jam::applyTheme(jam::ThemeChoice::dark);
    return Catch::Session().run(count, words);
}
