#include "files/walk_file.h"

#include "files/disk.h"
#include "files/spots_json.h"

namespace jam {

namespace {

constexpr uint64_t kMostBytes = 128u << 20;

WalkRecord::Run readRun(Fields& f, const Json& item, size_t index) {
    const std::string name = "runs[" + std::to_string(index) + "]";
    const auto wrong = [&](const char* problem, const char* remedy) {
        f.fail(name, problem, remedy);
        return WalkRecord::Run{};
    };
    if (!item.is_array() || item.size() != 7)
        return wrong("it is not a list of seven numbers", "write [steps, forward, right, heading, run, jump, dive]");
    constexpr long long low[] = {1, -1, -1, 0, 0, 0, 0},
                        high[] = {static_cast<long long>(kMostWalkSteps), 1, 1, 65535, 1, 1, 1};
    long long v[7];
    for (size_t i = 0; i < 7; ++i) {
        if (!item[i].is_number_integer())
            return wrong("it holds something that is no whole number", "write whole numbers");
        v[i] = item[i].is_number_unsigned() && item[i].get<uint64_t>() > kMostWalkSteps ? high[i] + 1
                                                                                        : item[i].get<long long>();
        if (v[i] < low[i] || v[i] > high[i])
            return wrong("a number is out of its range",
                         "write [steps from 1, -1 to 1, -1 to 1, 0 to 65535, 0 or 1 thrice]");
    }
    return {{static_cast<int8_t>(v[1]), static_cast<int8_t>(v[2]), static_cast<uint16_t>(v[3]), v[4] != 0, v[5] != 0,
             v[6] != 0},
            static_cast<uint32_t>(v[0])};
}

}  // namespace

Result<WalkRecord> parseWalk(const std::string& text, const std::string& file, const Level& level) {
    Result<Json> json = parseJson(text, file);
    if (!json) return json.error();
    std::optional<Error> error;
    Fields f(json.value(), file, error);
    if (f.text("format") != "jamhill-walk") f.fail("format", "it is not \"jamhill-walk\"", "open a recorded walk");
    f.whole("version", 1, 1);
    WalkRecord r;
    {
        Fields l = f.object("level");
        r.level = l.text("name");
        r.columns = l.whole("columns", kMinSamples, kMaxSamples);
        r.rows = l.whole("rows", kMinSamples, kMaxSamples);
        r.spacing = l.number("spacing", 0.01, 100);
        r.originX = l.number("originX", -1e7, 1e7);
        r.originZ = l.number("originZ", -1e7, 1e7);
    }
    r.body = readBody(f.object("body"));
    {
        Fields s = f.object("start");
        r.x = s.number("x", -1e7, 1e7);
        r.z = s.number("z", -1e7, 1e7);
    }
    const Json* runs = f.array("runs", kMostWalkRuns);
    uint64_t steps = 0;
    for (size_t i = 0; runs && i < runs->size() && !f.failed(); ++i) {
        r.runs.push_back(readRun(f, (*runs)[i], i));
        steps += r.runs.back().steps;
        if (steps > kMostWalkSteps) f.fail("runs", "it takes more than three hours", "record a shorter walk");
    }
    if (error) return *error;
    if (const Status s = checkRecord(level, r); !s)
        return Error{file, s.error().field, s.error().problem, s.error().remedy};
    return r;
}

Result<WalkRecord> readWalk(const std::filesystem::path& path, const Level& level) {
    const Result<Bytes> bytes = readFile(path, kMostBytes);
    if (!bytes) return bytes.error();
    return parseWalk(std::string(bytes.value().begin(), bytes.value().end()), path.string(), level);
}

std::string walkText(const WalkRecord& r) {
    Json runs = Json::array();
    for (const WalkRecord::Run& run : r.runs) {
        const WalkInput& i = run.input;
        runs.push_back({run.steps, i.forward, i.right, i.heading, int{i.run}, int{i.jump}, int{i.dive}});
    }
    const Json j = {{"format", "jamhill-walk"},
                    {"version", 1},
                    {"level",
                     {{"name", r.level},
                      {"columns", r.columns},
                      {"rows", r.rows},
                      {"spacing", r.spacing},
                      {"originX", r.originX},
                      {"originZ", r.originZ}}},
                    {"body", bodyToJson(r.body)},
                    {"start", {{"x", r.x}, {"z", r.z}}},
                    {"stepsASecond", Walker::kStepsASecond},
                    {"runs", std::move(runs)}};
    return toText(j, -1) + "\n";
}

Status writeWalk(const WalkRecord& record, const std::filesystem::path& path) {
    const std::string text = walkText(record);
    AtomicFile file(path);
    if (Status s = file.write(Bytes(text.begin(), text.end())); !s) return s;
    return file.commit();
}

}  // namespace jam
