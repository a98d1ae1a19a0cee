// Everything about the fence, in the sheet: drawing it, finding it, changing it, keeping it, working inside it.
#pragma once

#include <functional>
#include <QWidget>

#include "fence/fence.h"
#include "tasks/fence_job.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QToolButton;
class QVBoxLayout;

namespace jam {

class NumberField;
struct House;
class Workplace;

// Takes the fence out of force, or puts the last one back; says so.
void turnFence(House& house);

class FencePanel : public QWidget {
    Q_OBJECT
public:
    explicit FencePanel(House& house, QWidget* parent);

private:
    void makeDrawing(QVBoxLayout* column);
    void makeFinding(QVBoxLayout* column);
    void makeChanging(QVBoxLayout* column);
    void makeWorking(QVBoxLayout* column);
    void makeKeeping(QVBoxLayout* column);
    void refresh();
    void showFields();
    void find();
    void keep();
    void recall();
    void forget();
    // One step of the history on a worker; refused in words when nothing would lie inside.
    void change(const QString& what, std::vector<Thing> of, FenceChange change);
    void workInside(const QString& what, const struct WholeWish& wish);
    void fill();
    QToolButton* button(const char* id, const char* icon, const QString& tip, std::function<void()> act);

    House& house_;
    Workplace& place_;
    QLabel* says_;
    QToolButton* turn_;
    QComboBox *join_, *source_, *what_, *kept_;
    NumberField *from_, *to_, *fade_, *metres_, *by_, *height_;
    QCheckBox* tint_;
    std::vector<QWidget*> needFence_;  // enabled while a fence is in force
};

}  // namespace jam
