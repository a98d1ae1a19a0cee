#include "base/names.h"

#include "base/text.h"

namespace jam {

Status checkName(const std::string& name) {
    if (!isText(name))
        return Error{"", "name", "“" + asText(shortened(name, 40)) + "” has letters that are none",
                     "write it in UTF-8"};
    if (name.size() <= kMostName) return {};
    return Error{"", "name", "“" + shortened(name, 40) + "…” is longer than " + std::to_string(kMostName) + " bytes",
                 "choose a shorter one"};
}

std::string shortened(std::string name, size_t most) {
    if (name.size() <= most) return name;
    // Bytes that go on with a letter look like 10xxxxxx.
    while (most > 0 && (static_cast<unsigned char>(name[most]) & 0xC0) == 0x80) --most;
    name.resize(most);
    return name;
}

}  // namespace jam
