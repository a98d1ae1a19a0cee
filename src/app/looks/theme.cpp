#include "looks/theme.h"

#include <algorithm>
#include <cmath>
#include <QAbstractButton>
#include <QFile>
#include <QFontDatabase>
#include <QFontInfo>
#include <QPainter>
#include <QPalette>
#include <QSettings>
#include <QSvgRenderer>

// The icons and fonts live in a library, whose resources are registered by hand; the macro wants no namespace.
static void registerAssets() { Q_INIT_RESOURCE(assets); }

namespace jam {

namespace {

const Theme kDark{{0x22, 0x25, 0x29}, {0x2b, 0x2f, 0x34}, {0x38, 0x3d, 0x43}, {0x46, 0x4c, 0x53}, {0xe6, 0xe3, 0xdc},
                  {0x9d, 0xa2, 0xa6}, {0x9a, 0x4a, 0x82}, {0xff, 0xf6, 0xfb}, {0xf2, 0xa6, 0x5f}, {0x5f, 0xa3, 0xc7},
                  {0x86, 0xb5, 0x5c}, {0xe0, 0x8a, 0x4e}, {0x6b, 0x5d, 0x50}};
const Theme kLight{{0xde, 0xdb, 0xd4}, {0xee, 0xeb, 0xe5}, {0xfa, 0xf8, 0xf4}, {0xc9, 0xc4, 0xbb}, {0x2b, 0x2d, 0x31},
                   {0x62, 0x64, 0x67}, {0x7d, 0x32, 0x66}, {0xff, 0xf6, 0xfb}, {0xd4, 0x7a, 0x22}, {0x2d, 0x78, 0xa3},
                   {0x4d, 0x80, 0x28}, {0xb4, 0x57, 0x1a}, {0x9a, 0x8a, 0x78}};

ThemeChoice chosen = ThemeChoice::dark;

const char* const kStyle = R"(
* { font-family: Karla; font-size: @13px; }
QWidget { color: @text; }
QMainWindow, QDialog { background: @panel; }
QToolTip { background: @raised; color: @text; border: 1px solid @line; padding: 4px; }
QToolButton { background: transparent; border: 1px solid transparent; border-radius: 5px; padding: 4px; }
QToolButton:hover { background: @raised; }
QToolButton:focus, QPushButton:focus, QListWidget:focus { border-color: @brush; }
QCheckBox:focus, QRadioButton:focus { color: @brush; }
QToolButton:checked { background: @active; color: @onActive; }
QToolButton:disabled, QPushButton:disabled, QLabel:disabled { color: @line; }
QToolButton[fold="true"] { background: transparent; color: @text; font-weight: bold; text-align: left; padding: 3px 0; border: none; }
QToolButton[fold="true"]:checked, QToolButton[fold="true"]:hover { background: transparent; color: @text; }
QPushButton { background: @raised; border: 1px solid @line; border-radius: 5px; padding: 5px 12px; }
QPushButton:hover { border-color: @quiet; }
QPushButton:checked { background: @active; color: @onActive; border-color: @active; }
QPushButton:default { background: @active; color: @onActive; border-color: @active; }
QLineEdit, QSpinBox, QDoubleSpinBox, QComboBox { background: @back; border: 1px solid @line; border-radius: 4px; padding: 2px 5px; min-height: @20px; selection-background-color: @active; selection-color: @onActive; }
QLineEdit:focus, QSpinBox:focus, QDoubleSpinBox:focus, QComboBox:focus { border-color: @active; }
QComboBox { background: @raised; padding-right: 20px; }
QComboBox::drop-down { border: none; width: 20px; }
QComboBox::down-arrow { image: url(:/icons/@list.svg); width: 12px; height: 12px; }
QComboBox QAbstractItemView { background: @panel; border: 1px solid @line; selection-background-color: @active; selection-color: @onActive; }
QSpinBox::up-button, QDoubleSpinBox::up-button, QSpinBox::down-button, QDoubleSpinBox::down-button { width: 0; border: none; }
QSlider::groove:horizontal { height: 3px; background: @line; border-radius: 1px; }
QSlider::sub-page:horizontal { background: @brush; border-radius: 1px; }
QSlider::handle:horizontal { background: @text; width: 12px; height: 12px; margin: -5px 0; border-radius: 6px; }
QScrollBar:vertical { background: transparent; width: 9px; margin: 0; }
QScrollBar::handle:vertical { background: @line; border-radius: 4px; min-height: 24px; }
QScrollBar:horizontal { background: transparent; height: 9px; margin: 0; }
QScrollBar::handle:horizontal { background: @line; border-radius: 4px; min-width: 24px; }
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page { background: none; border: none; width: 0; height: 0; }
QListWidget, QTableWidget { background: @back; border: 1px solid @line; border-radius: 5px; outline: 0; }
QListWidget::item { padding: 3px 6px; background: transparent; border: none; }
QListWidget::item:selected, QTableWidget::item:selected { background: @active; color: @onActive; }
QHeaderView::section { background: @panel; border: none; padding: 4px; color: @quiet; }
QMenu { background: @panel; border: 1px solid @line; padding: 4px; }
QMenu::item { padding: 5px 26px 5px 12px; border-radius: 4px; }
QMenu::item:selected { background: @active; color: @onActive; }
QMenu::item:disabled { color: @quiet; }
QMenu::separator { height: 1px; background: @line; margin: 4px 8px; }
QCheckBox::indicator, QRadioButton::indicator { width: 14px; height: 14px; border: 1px solid @quiet; background: @back; }
QCheckBox::indicator { border-radius: 3px; }
QRadioButton::indicator { border-radius: 8px; }
QCheckBox::indicator:checked, QRadioButton::indicator:checked { background: @active; border-color: @active; image: url(:/icons/check.svg); }
QProgressBar { background: @back; border: none; border-radius: 3px; height: 6px; }
QProgressBar::chunk { background: @active; border-radius: 3px; }
QScrollArea { background: transparent; border: none; }
QScrollArea > QWidget > QWidget { background: transparent; }
QDialogButtonBox { dialogbuttonbox-buttons-have-icons: 0; }
QFrame[card="true"] { background: @back; border: 1px solid @line; border-radius: 7px; }
QLabel[quiet="true"] { color: @quiet; }
QLabel[heading="true"] { font-weight: bold; }
)";

}  // namespace

double textScale() {
    // Desktops write with 12 to 15 pixels, and Jam Hill with 13; words grow with a desktop that writes larger.
    constexpr double kUsualPixels = 15;
    static const double scale = std::clamp(QFontInfo(QGuiApplication::font()).pixelSize() / kUsualPixels, 1.0,
                                           kMostTextScale);
    return scale;
}
int scaled(int pixels) { return static_cast<int>(std::lround(pixels * textScale())); }

const Theme& theme() { return chosen == ThemeChoice::dark ? kDark : kLight; }
ThemeChoice themeChoice() { return chosen; }

ThemeChoice rememberedTheme() {
    return QSettings().value("theme").toString() == "light" ? ThemeChoice::light : ThemeChoice::dark;
}

void applyTheme(ThemeChoice choice) {
    static const bool fonts = [] {
        registerAssets();
        for (const char* file : {"Regular", "Medium", "Bold"})
            QFontDatabase::addApplicationFont(QString(":/fonts/Karla-%1.otf").arg(file));
        return true;
    }();
    Q_UNUSED(fonts);
    chosen = choice;
    QSettings().setValue("theme", choice == ThemeChoice::light ? "light" : "dark");
    const Theme& t = theme();
    QPalette p;
    p.setColor(QPalette::Window, t.panel);
    p.setColor(QPalette::WindowText, t.text);
    p.setColor(QPalette::Base, t.back);
    p.setColor(QPalette::Text, t.text);
    p.setColor(QPalette::Button, t.raised);
    p.setColor(QPalette::ButtonText, t.text);
    p.setColor(QPalette::Highlight, t.active);
    p.setColor(QPalette::HighlightedText, t.onActive);
    p.setColor(QPalette::PlaceholderText, t.quiet);
    qApp->setPalette(p);
    QString style = kStyle;
    const std::pair<const char*, QColor> names[] = {
        {"@onActive", t.onActive}, {"@active", t.active}, {"@back", t.back},
        {"@panel", t.panel},       {"@raised", t.raised}, {"@line", t.line},
        {"@text", t.text},         {"@quiet", t.quiet},   {"@brush", t.brush}};
    for (const auto& [name, colour] : names) style.replace(name, colour.name());
    for (const int length : {13, 20}) style.replace(QString("@%1px").arg(length), QString("%1px").arg(scaled(length)));
    style.replace("@list", choice == ThemeChoice::light ? "list-light" : "list-dark");
    qApp->setStyleSheet(style);
    emit themeChanges().changed();
}

ThemeChanges& themeChanges() {
    static ThemeChanges changes;
    return changes;
}

void setThemedIcon(QAbstractButton* button, const QString& name) {
    const auto draw = [button, name] { button->setIcon(icon(name)); };
    draw();
    QObject::connect(&themeChanges(), &ThemeChanges::changed, button, draw);
}

QPixmap iconPixmap(const QString& name, int size, const QColor& colour, qreal ratio) {
    QFile file(":/icons/" + name + ".svg");
    if (!file.open(QIODevice::ReadOnly)) return {};
    QSvgRenderer svg(file.readAll().replace("#000000", colour.name().toLatin1()));
    QPixmap pixmap(QSize(size, size) * ratio);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    svg.render(&painter);
    painter.end();
    pixmap.setDevicePixelRatio(ratio);
    return pixmap;
}

QIcon icon(const QString& name) {
    QIcon i;
    for (const int size : {20, 40}) {
        i.addPixmap(iconPixmap(name, size, theme().text), QIcon::Normal, QIcon::Off);
        i.addPixmap(iconPixmap(name, size, theme().onActive), QIcon::Normal, QIcon::On);
        i.addPixmap(iconPixmap(name, size, theme().line), QIcon::Disabled);
    }
    return i;
}

}  // namespace jam
