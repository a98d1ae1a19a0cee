// Reads fields of a JSON object, keeping the first thing that is wrong as one clear sentence.
#pragma once

#include <array>
#include <limits>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>

#include "base/names.h"
#include "base/result.h"
#include "base/text.h"

namespace jam {

using Json = nlohmann::json;

// Errors: not JSON, or more than kMostJsonValues. Nesting is limited, so that hostile text cannot exhaust the stack.
constexpr size_t kMostJsonValues = 16'000'000;  // some 600 MB while it is read
Result<Json> parseJson(const std::string& text, const std::string& file);

// As text, `indent` spaces a step; none on one line with -1. Bytes that are no text (in names of files) are replaced.
std::string toText(const Json& json, int indent);

// A cursor into a JSON value that knows its own path ("layers[2].tileSize") for messages. All cursors made
// from one share its first error; after an error, reads give harmless values and the caller checks once.
class Fields {
public:
    Fields(const Json& json, std::string file, std::optional<Error>& error)
        : json_(&json), file_(std::move(file)), error_(&error) {
        if (!json.is_object()) fail("", "it is not an object", "see the format's description");
    }

    bool has(const char* name) const { return json_->is_object() && json_->contains(name); }

    // A number in [low, high]; `otherwise` when absent, or an error when absent without it.
    double number(const char* name, double low, double high, std::optional<double> otherwise = {});
    int whole(const char* name, int low, int high, std::optional<int> otherwise = {});
    bool flag(const char* name, std::optional<bool> otherwise = {});
    // Text of at most `most` bytes.
    std::string text(const char* name, std::optional<std::string> otherwise = {}, size_t most = kMostName);
    // Text of any length up to `most` bytes, such as a picture.
    std::string longText(const char* name, size_t most);
    // Items of an array with at most `most`; f(item cursor) for objects.
    template <class F>
    void each(const char* name, size_t most, F f) {
        const Json* list = array(name, most);
        for (size_t i = 0; list && i < list->size() && !*error_; ++i)
            f(Fields((*list)[i], file_, *error_, path(name) + "[" + std::to_string(i) + "]"));
    }
    // The raw array, or null after noting an error.
    const Json* array(const char* name, size_t most);
    Fields object(const char* name);

    void fail(const std::string& name, const std::string& problem, const std::string& remedy) {
        if (!*error_) *error_ = Error{file_, path(name), problem, remedy};
    }
    bool failed() const { return error_->has_value(); }

private:
    Fields(const Json& json, std::string file, std::optional<Error>& error, std::string at)
        : json_(&json), file_(std::move(file)), at_(std::move(at)), error_(&error) {
        if (!json.is_object()) fail("", "it is not an object", "see the format's description");
    }
    std::string path(const std::string& name) const {
        return at_.empty() ? name : name.empty() ? at_ : at_ + "." + name;
    }
    const Json* find(const char* name, bool required);

    const Json* json_;
    std::string file_, at_;
    std::optional<Error>* error_;
};

// One of the words for the values of E; `otherwise` when absent.
template <class E, size_t n>
E choiceFrom(Fields& f, const char* field, const std::array<std::string_view, n>& names,
             std::optional<std::string> otherwise = {}) {
    const std::string said = f.text(field, std::move(otherwise));
    if (const auto found = fromName<E>(names, said)) return *found;
    std::string all;
    for (const std::string_view name : names) all += (all.empty() ? "" : ", ") + std::string(name);
    f.fail(field, "it is \"" + said + "\"", "use one of " + all);
    return E{};
}

}  // namespace jam
