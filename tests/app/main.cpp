#define CATCH_CONFIG_RUNNER
#include <catch2/catch.hpp>

#include "start.h"

int main(int count, char** words) {
    const jam::test::Start start(count, words);
    return Catch::Session().run(count, words);
}
