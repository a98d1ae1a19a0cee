// What the world does wrong (files, disks, hostile input) comes back as a value.
// What a caller does wrong is an assertion.
#pragma once

#include <cassert>
#include <optional>
#include <string>
#include <utility>
#include <variant>

namespace jam {

// One clear sentence for the person at the screen: where, what, and what to do about it.
struct Error {
    std::string file;     // file or input it concerns; may be empty
    std::string field;    // field, entry or option within it; may be empty
    std::string problem;  // what is wrong, in plain words, no full stop
    std::string remedy;   // what to do about it, in plain words, no full stop

    // "hills.png: width is 9000, more than 8193; choose a smaller picture."
    std::string sentence() const;
};

template <class T>
class [[nodiscard]] Result {
public:
    Result(T value) : state_(std::move(value)) {}
    Result(Error error) : state_(std::move(error)) {}

    explicit operator bool() const { return state_.index() == 0; }
    T& value() {
        assert(*this);
        return std::get<0>(state_);
    }
    const T& value() const {
        assert(*this);
        return std::get<0>(state_);
    }
    T take() {
        assert(*this);
        return std::move(std::get<0>(state_));
    }
    const Error& error() const {
        assert(!*this);
        return std::get<1>(state_);
    }

private:
    std::variant<T, Error> state_;
};

template <>
class [[nodiscard]] Result<void> {
public:
    Result() = default;
    Result(Error error) : error_(std::move(error)) {}

    explicit operator bool() const { return !error_; }
    const Error& error() const {
        assert(error_);
        return *error_;
    }

private:
    std::optional<Error> error_;
};

using Status = Result<void>;

}  // namespace jam
