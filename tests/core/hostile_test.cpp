// Whatever is read may be anything: it is refused in words, or what comes of it is sound. tools/fuzz goes on from here
// for as long as one likes.
#include <catch2/catch.hpp>

#include <cstdlib>

#include "folder.h"
#include "hostile.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("every reader takes what is good, and what was once trouble is none") {
    for (const HostileReader& reader : hostileReaders()) {
        CAPTURE(reader.name);
        const std::vector<Bytes> good = reader.good();
        REQUIRE_FALSE(good.empty());
        for (const Bytes& bytes : good) {
            const HostileReader::Outcome outcome = reader.read(bytes);
            INFO(outcome.wrong << outcome.says);
            CHECK(outcome.accepted);
            CHECK(outcome.wrong.empty());
        }
        for (const auto& find : keptFinds(reader.name)) {
            CAPTURE(find);
            CHECK(reader.read(bytesOf(find)).wrong.empty());
        }
    }
}

TEST_CASE("files that were changed where it hurts are refused in words, or are sound", "[fuzz]") {
    const char* many = std::getenv("JAMHILL_CHANGES");
    const int changes = many ? std::atoi(many) : 400;
    const char* only = std::getenv("JAMHILL_READER");
    for (const HostileReader& reader : hostileReaders()) {
        if (only && std::string(only) != reader.name) continue;
        CAPTURE(reader.name);
        Random random(29);
        const std::vector<Bytes> good = reader.good();
        int accepted = 0, refused = 0;
        for (int i = 0; i < changes; ++i) {
            const Bytes bytes = reader.change(good[random() % good.size()], random);
            HostileReader::Outcome outcome;
            try {
                outcome = reader.read(bytes);
            } catch (const std::exception& e) {
                outcome.wrong = std::string("threw ") + e.what();
            }
            if (!outcome.wrong.empty()) {
                const std::string find = std::string("/tmp/hostile-") + reader.name;
                put(find, bytes);
                FAIL_CHECK(reader.name << ", change " << i << ": " << outcome.wrong << "; kept as " << find);
                break;
            }
            (outcome.accepted ? accepted : refused)++;
        }
        // Both happen, or the changes do not go where it hurts.
        CHECK((!reader.refuses || refused > changes / 50));
        CHECK(accepted > changes / 200);
    }
}
