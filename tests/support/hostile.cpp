#include "hostile.h"

#include <sys/mman.h>
#include <unistd.h>
#include <cmath>
#include <fstream>

#include "clip/clip.h"
#include "clip/set_down.h"
#include "course/bake.h"
#include "course/line.h"
#include "elevation_files.h"
#include "files/archive.h"
#include "files/exr.h"
#include "files/field_level.h"
#include "files/glb.h"
#include "files/heightmap.h"
#include "files/kinds_json.h"
#include "files/layer_json.h"
#include "files/layer_set.h"
#include "files/level_file.h"
#include "files/read_gltf.h"
#include "files/settings_json.h"
#include "files/shape_file.h"
#include "files/spots_json.h"
#include "files/strata_json.h"
#include "files/stroke_file.h"
#include "files/walk_file.h"
#include "files/weights_file.h"
#include "folder.h"
#include "handover/handover.h"
#include "journal/recover.h"
#include "level/history.h"
#include "level/resize.h"
#include "level/strata.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "walk/recording.h"

namespace jam::test {

namespace fs = std::filesystem;
using Outcome = HostileReader::Outcome;

namespace {

// What must hold of every refusal; with a name in it where the reader was given one.
Outcome refused(const Error& error) {
    const std::string says = error.sentence();
    if (error.problem.empty() || says.size() < 12) return {false, "refused without a sentence: " + says, says};
    if (says.size() > 2000) return {false, "refused at length: " + says.substr(0, 200), says};
    return {false, "", says};
}
Outcome wrong(const std::string& what) { return {true, what, ""}; }

std::string textOf(const Bytes& bytes) { return std::string(bytes.begin(), bytes.end()); }
Bytes bytesOfText(const std::string& text) { return Bytes(text.begin(), text.end()); }

// A file in memory, for readers that take a path.
class InMemory {
public:
    explicit InMemory(const Bytes& bytes) : fd_(::memfd_create("hostile", MFD_CLOEXEC)) {
        size_t done = 0;
        while (done < bytes.size()) {
            const ssize_t n = ::write(fd_, bytes.data() + done, bytes.size() - done);
            if (n <= 0) break;
            done += static_cast<size_t>(n);
        }
    }
    ~InMemory() { ::close(fd_); }
    InMemory(const InMemory&) = delete;
    fs::path path() const { return "/proc/self/fd/" + std::to_string(fd_); }

private:
    int fd_;
};

// One folder of its own for each process.
const Folder& workFolder() {
    static const Folder folder;
    return folder;
}

const Level& smallLevel() {
    static const Level level = [] { return cropLevel(lopsidedLevel(), {100, 40, 140, 70}).take(); }();
    return level;
}
Bytes fileOf(const Level& level) {
    const fs::path file = workFolder().path / "good.jamhill";
    const Status saved = saveLevel(level, file);
    if (!saved) return {};
    return bytesOf(file);
}

// Heights may lie beyond the range; nothing else may be wrong with what was let in.
std::string unsound(const Level& level) {
    for (const std::string& w : checkLevel(level))
        if (w.find("altitude") == std::string::npos) return w;
    return {};
}

Outcome readLevel(const Bytes& bytes) {
    const InMemory file(bytes);
    const Result<Level> read = loadLevel(file.path());
    if (!read) return refused(read.error());
    if (const std::string w = unsound(read.value()); !w.empty()) return wrong(w);
    // What was taken in can be kept again.
    const fs::path again = workFolder().path / "again.jamhill";
    if (const Status saved = saveLevel(read.value(), again); !saved)
        return wrong("cannot be saved: " + saved.error().sentence());
    const Result<Level> twice = loadLevel(again);
    if (!twice) return wrong("cannot be opened again: " + twice.error().sentence());
    if (!(twice.value() == read.value())) return wrong("is another after it was saved and opened");
    return {true, "", ""};
}

std::vector<Bytes> goodClips() {
    Level level = smallLevel();
    return {fileOf(liftClip(level, {5, 5, 30, 20}, "piece").take()), fileOf(level)};
}
Outcome readClip(const Bytes& bytes) {
    const InMemory file(bytes);
    const Result<Level> clip = loadLevel(file.path());
    if (!clip) return refused(clip.error());
    const Level on = flatLevel(60, 40, 3);
    Placement place;
    place.x = 25, place.z = 20, place.turn = 30;
    const Result<Level> set = setDown(on, clip.value(), {place}, {});
    if (!set) return refused(set.error());
    if (const std::string w = unsound(set.value()); !w.empty()) return wrong(w);
    return {true, "", ""};
}

// --- pictures and heights -----------------------------------------------------------------------------------------

std::vector<Bytes> goodPngs() {
    std::vector<Bytes> all;
    for (const int bits : {8, 16})
        for (int channels = 1; channels <= 4; ++channels) {
            Pixels p{23, 17, channels, bits, {}};
            for (int i = 0; i < 23 * 17 * channels; ++i)
                p.samples.push_back(static_cast<uint16_t>(i * 37 % (p.most() + 1)));
            all.push_back(encodePng(p, 6));
        }
    return all;
}
Outcome readPng(const Bytes& bytes) {
    const Result<Pixels> p = decodePng(bytes, "x.png", 512);
    if (!p) return refused(p.error());
    const Pixels& v = p.value();
    if (v.width < 1 || v.height < 1 || v.width > 512 || v.height > 512) return wrong("its size is out of range");
    if (v.samples.size() != static_cast<size_t>(v.width * v.height * v.channels)) return wrong("samples are missing");
    for (const uint16_t s : v.samples)
        if (s > v.most()) return wrong("a sample is beyond its range");
    (void)tipFromPixels(v, "x");
    return {true, "", ""};
}
Outcome readWeights(const Bytes& bytes) {
    const InMemory file(bytes);
    const Level level = flatLevel(23, 17, 3);
    std::vector<WeightChannel> channels{{file.path(), 0, level.layers[0].id}, {file.path(), 1, level.layers[2].id}};
    const Result<Level> read = importWeights(level, channels);
    if (!read) return refused(read.error());
    if (const std::string w = unsound(read.value()); !w.empty()) return wrong(w);
    return {true, "", ""};
}
std::vector<Bytes> goodWeights() {
    Pixels p{23, 17, 3, 8, std::vector<uint16_t>(23 * 17 * 3, 85)};
    return {encodePng(p)};
}

Outcome readHeights(const Bytes& bytes) {
    std::optional<RawLayout> layout;
    if (looksRaw(bytes)) {
        const Result<RawLayout> guess = guessRaw(bytes, "x");
        if (!guess) return refused(guess.error());
        layout = guess.value();
    }
    const Result<HeightField> field = decodeHeightField(bytes, "x", layout);
    if (!field) return refused(field.error());
    const HeightField& f = field.value();
    if (!std::isfinite(f.low) || !std::isfinite(f.high) || f.low > f.high) return wrong("its range is none");
    for (int z = 0; z < f.depth(); ++z)
        for (int x = 0; x < f.width(); ++x)
            if (!(f.values.at(x, z) >= f.low && f.values.at(x, z) <= f.high))
                return wrong("a value is out of its range");
    if (f.width() > 200 || f.depth() > 200) return {true, "", ""};
    FieldWish wish;
    wish.black = f.metres ? f.black : 0, wish.white = f.metres ? f.white : 100;
    Result<Level> level = levelFromField(f, wish);
    if (!level) return {true, refused(level.error()).wrong, ""};
    addLayer(level.value(), plainLayer("ground"));
    if (const std::string w = unsound(level.value()); !w.empty()) return wrong(w);
    return {true, "", ""};
}
// Those of the files of elevation that end so.
std::vector<Bytes> elevation(const std::string& ending) {
    static const std::vector<ElevationFile> all = [] {
        fs::create_directories(workFolder().path / "heights");
        return writeElevationFiles(workFolder().path / "heights");
    }();
    std::vector<Bytes> some;
    for (const ElevationFile& f : all)
        if (f.path.extension() == ending && fs::file_size(f.path) < 200'000) some.push_back(bytesOf(f.path));
    return some;
}
Outcome readExrPicture(const Bytes& bytes) {
    const Result<Pixels> p = decodeExrPicture(bytes, "x.exr", 512, true);
    if (!p) return refused(p.error());
    for (const uint16_t s : p.value().samples)
        if (s > p.value().most()) return wrong("a sample is beyond its range");
    return {true, "", ""};
}

// --- texts --------------------------------------------------------------------------------------------------------

const Level& strokedLevel() {
    static const Level level = hillyLevel(65, 65, 1, 3);
    return level;
}
std::vector<Bytes> goodStrokes() {
    std::vector<Stroke> strokes;
    for (const Tool tool : {Tool::raise, Tool::smooth, Tool::flatten, Tool::paint}) {
        Stroke s;
        s.settings.tool = tool;
        s.settings.radius = 6, s.settings.strength = 0.5f;
        if (usesLayer(tool)) s.settings.layer = strokedLevel().layers[1].id;
        s.points = {{1, 2, 1, 0}, {13, 4, 0.5f, 1}, {15, -4, 1, 1.5}};
        strokes.push_back(s);
    }
    strokes[0].settings.tip = {
        TipShape::picture, std::make_shared<TipPicture>(TipPicture{"Stripe", 2, {0, 1, 0, 1}}), 15, false, false, 0};
    return {bytesOfText(writeStrokes(strokes, strokedLevel()))};
}
Outcome readStrokesOf(const Bytes& bytes) {
    const Result<std::vector<Stroke>> read = parseStrokes(textOf(bytes), "s.json", strokedLevel());
    if (!read) return refused(read.error());
    Level level = strokedLevel();
    for (const Stroke& s : read.value()) {
        if (s.points.size() > 20 || read.value().size() > 6) break;
        double length = 0;
        for (size_t i = 1; i < s.points.size(); ++i)
            length += std::hypot(s.points[i].x - s.points[i - 1].x, s.points[i].z - s.points[i - 1].z);
        if (length > 500) continue;
        if (const Result<Change> done = runStroke(level, s); !done && done.error().problem.empty())
            return wrong("a stroke is refused without a sentence");
    }
    if (const std::string w = unsound(level); !w.empty()) return wrong(w);
    return {true, "", ""};
}

std::vector<Bytes> goodBrushes() {
    Preset p{"Craggy", {}};
    p.settings.tip = {
        TipShape::picture, std::make_shared<TipPicture>(TipPicture{"Stripe", 2, {0, 1, 0, 1}}), 15, false, false, 0};
    return {bytesOfText(writePreset(p))};
}
Outcome readBrush(const Bytes& bytes) {
    const Result<Preset> read = parsePreset(textOf(bytes), "b.json", {});
    if (!read) return refused(read.error());
    const Result<Preset> again = parsePreset(writePreset(read.value()), "b.json", {});
    if (!again) return wrong("cannot be read again: " + again.error().sentence());
    return {true, "", ""};
}

std::vector<Bytes> goodWalks() {
    const Level& level = strokedLevel();
    WalkRecord r = recordAt(level, kBodies[0], level.originX + 20, level.originZ + 20);
    r.runs = {{{}, 40}, {{}, 12}};
    return {bytesOfText(walkText(r))};
}
Outcome readWalkOf(const Bytes& bytes) {
    const Result<WalkRecord> read = parseWalk(textOf(bytes), "w.json", strokedLevel());
    if (!read) return refused(read.error());
    const Result<WalkRecord> again = parseWalk(walkText(read.value()), "w.json", strokedLevel());
    if (!again) return wrong("cannot be read again: " + again.error().sentence());
    return {true, "", ""};
}

// A course, a kind and a body, as verbs take them.
Json partsForVerbs() {
    Course course;
    for (const auto& [x, z] : {std::pair(-20, -15), {4, 10}, {25, -5}}) {
        Post post;
        post.x = x, post.z = z;
        course.posts.push_back(post);
    }
    return {{"course", courseToJson(course)}, {"body", bodyToJson(kBodies[1])}};
}
std::vector<Bytes> goodParts() { return {bytesOfText(toText(partsForVerbs(), 1))}; }
Outcome readParts(const Bytes& bytes) {
    const Result<Json> json = parseJson(textOf(bytes), "p.json");
    if (!json) return refused(json.error());
    std::optional<Error> error;
    Fields f(json.value(), "p.json", error);
    const Course course = readCourse(f.object("course"));
    (void)readBody(f.object("body"));
    if (error) return refused(*error);
    Level level = flatLevel(65, 65, 2);
    if (const Status s = checkNewCourse(level, course); !s) return refused(s.error());
    addCourse(level, "way", course);
    if (const std::string w = unsound(level); !w.empty()) return wrong(w);
    return {true, "", ""};
}

std::vector<Bytes> goodLayerTexts() {
    Json j = layerToJson(smallLevel().layers[1]);
    return {bytesOfText(toText(j, 1))};
}
Outcome readLayerFolder(const Bytes& bytes) {
    static const fs::path set = [] {
        const fs::path folder = workFolder().path / "set", one = folder / "one";
        fs::create_directories(one);
        put(one / "colour.png", encodePng({8, 8, 3, 8, std::vector<uint16_t>(192, 90)}));
        return folder;
    }();
    put(set / "one" / "layer.json", bytes);
    Result<std::vector<Layer>> read = readLayerSet(set);
    if (!read) return refused(read.error());
    Level level = flatLevel(20, 12, 1);
    for (const Layer& l : read.value()) addLayer(level, l);
    if (const std::string w = unsound(level); !w.empty()) return wrong(w);
    return {true, "", ""};
}

std::vector<Bytes> goodManifests() {
    const fs::path folder = workFolder().path / "handed";
    (void)handOver(smallLevel(), folder, {});
    return {bytesOf(folder / "manifest.json")};
}
Outcome readManifest(const Bytes& bytes) {
    // What is not ours is never touched, whatever an old manifest says.
    static const fs::path folder = workFolder().path / "handed again", foreign = workFolder().path / "foreign.txt";
    static const Level level = flatLevel(8, 8, 1);
    fs::create_directories(folder);
    put(foreign, {1});
    put(folder / "manifest.json", bytes);
    const Result<std::vector<std::string>> done = handOver(level, folder, {});
    if (!done) return refused(done.error());
    if (!fs::exists(foreign)) return wrong("took away a file outside of the folder");
    return {true, "", ""};
}

// --- shapes -------------------------------------------------------------------------------------------------------

const char* const kTetrahedron =
    "o stone\nv 0 0 0\nv 1 0 0\nv 0 0 1\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nvn 0 1 0\n"
    "f 1/1/1 2/2/1 3/3/1\nf 1/1 2/2 4/3\nf 2//1 3//1 4//1\nf 3 1 4\n";

Outcome takeInShape(const Result<ReadShape>& read) {
    if (!read) return refused(read.error());
    const Result<std::shared_ptr<const TakenShape>> taken = takeIn(read.value(), {});
    if (!taken) return refused(taken.error());
    const Result<std::shared_ptr<const TakenShape>> again = decodeShape(taken.value()->glb, "x", "x");
    if (!again) return wrong("cannot be read again: " + again.error().sentence());
    return {true, "", ""};
}
Result<Bytes> nothingBeside(const std::string&) { return Error{"beside", "", "there is no such file", "add it"}; }

std::vector<Bytes> goodObjs() { return {bytesOfText(kTetrahedron)}; }
Outcome readObjOf(const Bytes& bytes) { return takeInShape(readObj(bytes, "x.obj", nothingBeside)); }

std::vector<Bytes> goodGlbs() {
    const ReadShape shape = readObj(bytesOfText(kTetrahedron), "x.obj", nothingBeside).take();
    return {encodeGlb({{"stone", &shape.mesh}})};
}
Outcome readGlbOf(const Bytes& bytes) { return takeInShape(readGltf(bytes, true, "x.glb", nothingBeside)); }

std::vector<Bytes> goodGltfs() {
    // Three corners of floats within the text.
    return {bytesOfText(
        R"({"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"mesh":0,"scale":[2,2,2]}],)"
        R"("meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],"accessors":[{"bufferView":0,"componentType":5126,)"
        R"("count":3,"type":"VEC3","min":[0,0,0],"max":[1,1,0]}],"bufferViews":[{"buffer":0,"byteOffset":0,)"
        R"("byteLength":36}],"buffers":[{"byteLength":36,"uri":"data:application/octet-stream;base64,)"
        R"(AAAAAAAAAAAAAAAAAACAPwAAAAAAAAAAAAAAAAAAgD8AAAAA"}]})")};
}
Outcome readGltfOf(const Bytes& bytes) { return takeInShape(readGltf(bytes, false, "x.gltf", nothingBeside)); }

// --- the journal --------------------------------------------------------------------------------------------------

const fs::path& journalsFile() {
    static const fs::path file = [] {
        const fs::path path = workFolder().path / "journalled.jamhill";
        (void)saveLevel(smallLevel(), path);
        return path;
    }();
    return file;
}
std::vector<Bytes> goodJournals() {
    const fs::path folder = workFolder().path / "journals";
    fs::remove_all(folder);
    {
        History history(smallLevel(), "Start");
        Journal journal(folder, journalsFile(), fileIdentity(journalsFile()).value(), history.serial(), smallLevel(),
                        nullptr);
        for (int i = 0; i < 4; ++i) {
            Level next = history.now();
            next.strata[0].heights.set(3 + i, 5, 1.5f);
            history.push(std::move(next), "step " + std::to_string(i));
            const auto& e = history.entries()[history.place()];
            journal.record(e.serial, e.what, e.level);
        }
        (void)journal.settle();
    }
    std::vector<Bytes> all;
    for (const KeptWork& k : keptWork(folder)) all.push_back(bytesOf(k.journal));
    return all;
}
Outcome readJournal(const Bytes& bytes) {
    const fs::path folder = workFolder().path / "journals again";
    fs::remove_all(folder);
    fs::create_directories(folder);
    // As journals are named.
    put(folder / "1.journal", bytes);
    const std::vector<KeptWork> kept = keptWork(folder);
    if (kept.empty()) return {false, "", ""};
    const Result<TakenUp> taken = takeUpWork(kept.front().journal);
    if (!taken) return refused(taken.error());
    if (const std::string w = unsound(taken.value().history.now()); !w.empty()) return wrong(w);
    return {true, "", ""};
}

}  // namespace

const std::vector<HostileReader>& hostileReaders() {
    static const std::vector<HostileReader> all{
        {"level", [] { return std::vector<Bytes>{fileOf(smallLevel())}; }, changedZip, readLevel},
        {"clip", goodClips, changedZip, readClip},
        {"png", goodPngs, changedPng, readPng},
        {"weights", goodWeights, changedPng, readWeights},
        {"heights-png", [] { return elevation(".png"); }, changedPng, readHeights},
        {"heights-tiff", [] { return elevation(".tif"); }, changedTiff, readHeights},
        {"heights-exr", [] { return elevation(".exr"); }, changedExr, readHeights},
        {"heights-grid", [] { return elevation(".asc"); }, changedWords, readHeights},
        {"heights-raw", [] { return elevation(".raw"); }, [](const Bytes& b, Random& r) { return mutated(b, r); },
         readHeights, false},
        {"exr", [] { return elevation(".exr"); }, changedExr, readExrPicture},
        {"strokes", goodStrokes, changedJson, readStrokesOf},
        {"brush", goodBrushes, changedJson, readBrush},
        {"walk", goodWalks, changedJson, readWalkOf},
        {"parts", goodParts, changedJson, readParts},
        {"layers", goodLayerTexts, changedJson, readLayerFolder},
        {"manifest", goodManifests, changedJson, readManifest, false},
        {"obj", goodObjs, changedWords, readObjOf},
        {"glb", goodGlbs, changedGlb, readGlbOf},
        {"gltf", goodGltfs, changedJson, readGltfOf},
        {"journal", goodJournals, [](const Bytes& b, Random& r) { return mutated(b, r); }, readJournal},
    };
    return all;
}

const HostileReader* hostileReader(const std::string& name) {
    for (const HostileReader& r : hostileReaders())
        if (r.name == name) return &r;
    return nullptr;
}

std::vector<fs::path> keptFinds(const std::string& reader) {
    std::vector<fs::path> all;
    const fs::path folder = fs::path(JAMHILL_HOSTILE) / reader;
    if (fs::exists(folder))
        for (const auto& f : fs::directory_iterator(folder)) all.push_back(f.path());
    std::sort(all.begin(), all.end());
    return all;
}

}  // namespace jam::test
