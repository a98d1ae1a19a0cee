// The courses in the sheet: the chosen one, its posts, what lies on it, and what it asks of those who go there. While
// it is seen, presses on the ground work on courses.
#pragma once

#include <QWidget>

#include "edits/course_edits.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QToolButton;

namespace jam {

class NumberField;
struct House;

class CoursePanel : public QWidget {
    Q_OBJECT
public:
    explicit CoursePanel(House& house, QWidget* parent);

protected:
    void showEvent(QShowEvent* e) override;
    void hideEvent(QHideEvent* e) override;

private:
    void makePosts(class QVBoxLayout* column);
    void refresh();
    void showFigures(size_t place);
    // Changes the chosen course; `gesture` as Document::edit.
    void edit(const QString& what, const std::function<void(Course&)>& change, const QString& gesture = {});
    // Changes the chosen post, or all of them when they are alike.
    void editPost(const QString& what, const std::function<void(Post&)>& change, const QString& gesture, bool mayAll);
    void layers(uint32_t track, uint32_t verge);

    House& house_;
    Workplace& place_;
    CourseEdits courses_;
    QLabel *says_, *figures_;
    QComboBox *which_, *use_, *track_, *verge_;
    QCheckBox *smooth_, *closed_, *meets_, *free_;
    NumberField *height_, *width_, *shoulder_, *banking_;
    QWidget* details_;
};

}  // namespace jam
