// Taking times on a machine that others use, too.
#pragma once

#include <cstdlib>
#include <fstream>
#include <QElapsedTimer>
#include <string>

namespace jam::test {

// Hundredths of a second, over all processors, in which this machine was not let run although it had work (proc(5),
// "steal").
inline long stolenSoFar() {
    std::ifstream in("/proc/stat");
    std::string word;
    long stolen = 0;
    for (int i = 0; i < 9 && in >> word; ++i) stolen = std::strtol(word.c_str(), nullptr, 10);
    return stolen;
}

struct Sample {
    double ms = 0;
    bool stolen = false;  // the machine itself stood still meanwhile
};

// A time that is taken, from here on.
class Taking {
public:
    Taking() { clock_.start(); }
    double ms() const { return static_cast<double>(clock_.nsecsElapsed()) * 1e-6; }
    Sample taken() const { return {ms(), stolenSoFar() > before_}; }

private:
    const long before_ = stolenSoFar();
    QElapsedTimer clock_;
};

}  // namespace jam::test
