// Colours, font and style of everything, in one place.
#pragma once

#include <QApplication>
#include <QColor>
#include <QIcon>
#include <QObject>

class QAbstractButton;

namespace jam {

struct Theme {
    QColor back, panel, raised, line;  // from the deepest to the highest, and between them
    QColor text, quiet;                // ink and secondary ink
    QColor active, onActive;           // damson: what is active
    QColor brush;                      // apricot: the brush
    QColor water;                      // pond blue: only for water
    QColor passes;                     // leaf green: only for what passes
    QColor warns;                      // for what does not
    QColor ground;                     // the cut ground in the section
};

enum class ThemeChoice { dark, light };

const Theme& theme();
ThemeChoice themeChoice();
// Sets palette, font and style sheet of the application, now and for the next start.
void applyTheme(ThemeChoice choice);
// The choice of the last session.
ThemeChoice rememberedTheme();

// Tells when another theme was chosen, so that what keeps pictures in its colours draws them again.
class ThemeChanges : public QObject {
    Q_OBJECT
signals:
    void changed();
};
ThemeChanges& themeChanges();
// Gives a button an icon of ours that follows the theme.
void setThemedIcon(QAbstractButton* button, const QString& name);

// An icon of ours (assets/icons) drawn in the theme's ink; checked states in the active colour.
QIcon icon(const QString& name);
// How much larger than usual the desktop wants words to be, [1, kMostTextScale]; and a length in pixels that goes with
// them.
constexpr double kMostTextScale = 1.6;
double textScale();
int scaled(int pixels);

QPixmap iconPixmap(const QString& name, int size, const QColor& colour, qreal ratio = 1);

}  // namespace jam
