// The chosen kind: how it grows, stands, gathers, and what it keeps off.
#pragma once

#include <QWidget>

#include "edits/kind_edits.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QToolButton;
class QVBoxLayout;

namespace jam {

// How a kind may block who walks, in words, in the order of Blocks.
QStringList blocksWords();

class NumberField;
class Turntable;
struct House;

class KindPanel : public QWidget {
    Q_OBJECT
public:
    explicit KindPanel(House& house, QWidget* parent = nullptr);

signals:
    void menuWanted();
    void shapeWanted();  // another file in place of the one that it was taken in from

protected:
    void showEvent(QShowEvent* e) override;

private:
    void makeHead(QVBoxLayout* column);
    void makeGrowth(QVBoxLayout* column);
    void makeNumbers(QVBoxLayout* column, std::initializer_list<const char*> names);
    QComboBox* makeChoice(QVBoxLayout* column, const char* id, const QString& name, const QStringList& words,
                          std::function<int(const Kind&)> get, std::function<void(Kind&, int)> set);
    void makeKeepsOff(QVBoxLayout* column);
    void refreshGrowth(const Kind& kind);
    void refreshKeepsOff(const Kind& kind);
    void refresh();
    const Kind* kind() const;

    House& house_;
    KindEdits edits_;
    QLabel* none_;
    QWidget* details_;
    QLineEdit* name_;
    QToolButton *eye_, *lock_;
    Turntable* picture_;
    QLabel* taken_;
    QPushButton* takeAnew_;
    QComboBox* recipe_;
    QVBoxLayout *growth_, *kept_;
    std::string shownRecipe_;
    std::vector<NumberField*> growthFields_;
    NumberField *variants_, *seed_;
    struct Number {
        NumberField* field;
        float Kind::*value;
    };
    std::vector<Number> numbers_;
    struct Choice {
        QComboBox* box;
        std::function<int(const Kind&)> get;
    };
    std::vector<Choice> choices_;
    QComboBox *rowCourse_, *keepMore_;
    std::vector<KeptOff> shownKept_;
    uint32_t shownKeptOf_ = 0;
};

}  // namespace jam
