// What every program here does before its window: settings of its own, an OpenGL format, the name and style.
#pragma once

#include <QApplication>
#include <QSettings>
#include <QSurfaceFormat>
#include <QTemporaryDir>

#include "base/heap.h"
#include "looks/theme.h"

namespace jam::test {

template <class App>
class BasicStart {
public:
    BasicStart(int& count, char** words) : app_((prepare(settings_.path()), count), words) {
        QApplication::setApplicationName("jamhill-tests");
        QApplication::setOrganizationName("jamhill-tests");
        QApplication::setStyle("Fusion");
        applyTheme(ThemeChoice::dark);
        QSettings().setValue("firstMinute", true);  // put away, as after it was done
    }

private:
    static void prepare(const QString& settings) {
        giveBackLargeRasters();
        qputenv("XDG_DATA_HOME", settings.toLocal8Bit());  // own tips and brushes
        qputenv("XDG_STATE_HOME", settings.toLocal8Bit());
        QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings);
        QSurfaceFormat format;
        format.setVersion(3, 3);
        format.setProfile(QSurfaceFormat::CoreProfile);
        QSurfaceFormat::setDefaultFormat(format);
    }
    QTemporaryDir settings_;
    App app_;
};
using Start = BasicStart<QApplication>;

}  // namespace jam::test
