// Fields for a few settings that are described once (base/numbered.h).
#pragma once

#include <cctype>
#include <QObject>
#include <vector>

#include "base/numbered.h"
#include "panels/number_field.h"

namespace jam {

template <class Settings>
class NumberedFields {
public:
    // Below what the column has, with the usual values; object names are `prefix` and the number's own.
    template <size_t count>
    NumberedFields(QVBoxLayout* column, const char* prefix, const Numbered<Settings> (&all)[count]) {
        const Settings usual;
        for (const Numbered<Settings>& n : all) {
            QByteArray id(n.name);
            id[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(id[0])));
            const QByteArray name = prefix + id;
            NumberField* field = addNumber(column, {name.constData(),
                                                    QObject::tr(n.title),
                                                    QString(" ") + n.unit,
                                                    {n.low, n.high, n.decimals, n.low > 0}});
            field->setValue(static_cast<double>(usual.*n.value));
            fields_.push_back({field, n.value});
        }
    }
    Settings values() const {
        Settings s;
        for (const Field& f : fields_) s.*f.value = static_cast<float>(f.field->value());
        return s;
    }
    NumberField* of(float Settings::*value) const {
        for (const Field& f : fields_)
            if (f.value == value) return f.field;
        return nullptr;
    }

private:
    struct Field {
        NumberField* field;
        float Settings::*value;
    };
    std::vector<Field> fields_;
};

}  // namespace jam
