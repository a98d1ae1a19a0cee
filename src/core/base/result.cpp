#include "base/result.h"

namespace jam {

std::string Error::sentence() const {
    std::string s = file;
    if (!field.empty()) s += (s.empty() ? "" : ": ") + field;
    if (!s.empty()) s += ": ";
    s += problem;
    if (!remedy.empty()) s += "; " + remedy;
    return s + ".";
}

}  // namespace jam
