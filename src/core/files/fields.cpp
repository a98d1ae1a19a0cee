#include "files/fields.h"

#include <cmath>

namespace jam {

namespace {
constexpr int kDeepest = 16;
}

Result<Json> parseJson(const std::string& text, const std::string& file) {
    // The callback sees the depth of each value before it is built.
    bool tooDeep = false;
    size_t values = 0;
    const auto shallow = [&](int depth, Json::parse_event_t, Json&) {
        tooDeep |= depth > kDeepest;
        return depth <= kDeepest && ++values <= kMostJsonValues;
    };
    Json json = Json::parse(text, shallow, false);
    if (values > kMostJsonValues)
        return Error{file, "", "it holds more than " + std::to_string(kMostJsonValues / 1'000'000) + " million values",
                     "cut it into several files"};
    if (json.is_discarded() || tooDeep)
        return Error{file, "", tooDeep ? "it is nested too deeply" : "it is not valid JSON", "check the text"};
    return json;
}

std::string toText(const Json& json, int indent) {
    return json.dump(indent, ' ', false, Json::error_handler_t::replace);
}

const Json* Fields::find(const char* name, bool required) {
    if (*error_) return nullptr;
    const auto at = json_->find(name);
    if (at != json_->end()) return &*at;
    if (required) fail(name, "it is missing", "add it");
    return nullptr;
}

double Fields::number(const char* name, double low, double high, std::optional<double> otherwise) {
    const Json* v = find(name, !otherwise);
    const double fallback = otherwise.value_or(low);
    if (!v) return fallback;
    if (!v->is_number()) return fail(name, "it is not a number", "write a number"), fallback;
    const double d = v->get<double>();
    if (!std::isfinite(d) || d < low || d > high)
        return fail(name, "it is " + jam::number(d), "use " + jam::number(low) + " to " + jam::number(high)), fallback;
    return d;
}

int Fields::whole(const char* name, int low, int high, std::optional<int> otherwise) {
    const double d = number(name, low, high, otherwise ? std::optional<double>(*otherwise) : std::nullopt);
    if (d != std::floor(d)) fail(name, "it is " + jam::number(d), "use a whole number");
    return static_cast<int>(d);
}

bool Fields::flag(const char* name, std::optional<bool> otherwise) {
    const Json* v = find(name, !otherwise);
    if (!v) return otherwise.value_or(false);
    if (!v->is_boolean()) return fail(name, "it is not true or false", "write true or false"), false;
    return v->get<bool>();
}

std::string Fields::text(const char* name, std::optional<std::string> otherwise, size_t most) {
    const Json* v = find(name, !otherwise);
    if (!v) return otherwise.value_or("");
    if (!v->is_string()) return fail(name, "it is not text", "write it in quotes"), "";
    std::string s = v->get<std::string>();
    if (s.size() > most) return fail(name, "it is longer than " + std::to_string(most) + " bytes", "shorten it"), "";
    return s;
}

std::string Fields::longText(const char* name, size_t most) {
    const Json* v = find(name, true);
    if (!v) return "";
    if (!v->is_string()) return fail(name, "it is not text", "write it in quotes"), "";
    std::string s = v->get<std::string>();
    if (s.size() > most)
        return fail(name, "it is longer than " + std::to_string(most) + " bytes", "use a smaller picture"), "";
    return s;
}

const Json* Fields::array(const char* name, size_t most) {
    const Json* v = find(name, true);
    if (!v) return nullptr;
    if (!v->is_array()) return fail(name, "it is not a list", "write it in [ ]"), nullptr;
    if (v->size() > most)
        return fail(name, "it has " + std::to_string(v->size()) + " items", "use at most " + std::to_string(most)),
               nullptr;
    return v;
}

Fields Fields::object(const char* name) {
    static const Json kEmpty = Json::object();
    const Json* v = find(name, true);
    return Fields(v ? *v : kEmpty, file_, *error_, path(name));
}

}  // namespace jam
