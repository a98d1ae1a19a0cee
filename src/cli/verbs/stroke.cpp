#include "files/layer_set.h"
#include "files/level_file.h"
#include "files/stroke_file.h"
#include "pictures/material.h"
#include "stroke/stroker.h"
#include "verb.h"

namespace jam::cli {

namespace {

int stroke(const std::string& file, const std::string& strokes, const std::string& out, const std::string& reference,
           const std::string& stratum) {
    Result<Level> loaded = loadLevel(file);
    if (!loaded) return refuse(loaded);
    Level& level = loaded.value();
    if (!stratum.empty()) {
        const Result<uint32_t> id = idIn(level.strata, stratum, "--stratum", "stratum");
        if (!id) return refuse(id);
        if (level.stratum(id.value())->mixes())
            return refuse(Error{"", "--stratum", "\"" + stratum + "\" is a course or a border", "name a stratum"});
        level.activeStratum = id.value();
    }
    const Result<std::vector<Stroke>> list = readStrokes(strokes, level, readTips(shareFolder() / "tips"));
    if (!list) return refuse(list);
    std::shared_ptr<const Level> before;
    if (!reference.empty()) {
        Result<Level> read = loadLevel(reference);
        if (!read) return refuse(read);
        before = std::make_shared<const Level>(read.take());
    }
    for (const Stroke& s : list.value()) {
        std::shared_ptr<const Raster<float>> pictureHeights;
        if (s.settings.tool == Tool::breakUp && s.settings.breakBy == BreakBy::height) {
            const Result<Material> m = makeMaterial(*level.layer(s.settings.layer), 128);
            if (!m) return refuse(m);
            pictureHeights = std::make_shared<const Raster<float>>(heightOf(m.value()));
        }
        if (const Result<Change> r = runStroke(level, s, before, pictureHeights); !r) return refuse(r);
    }
    if (const Status s = saveLevel(level, out.empty() ? file : out); !s) return refuse(s);
    return 0;
}

}  // namespace

Verb addStroke(CLI::App& app) {
    struct Options {
        std::string file, strokes, out, reference, stratum;
    };
    auto o = std::make_shared<Options>();
    CLI::App* v = app.add_subcommand("stroke", "Runs strokes on a level");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("STROKES", o->strokes, "The stroke file")->required();
    v->add_option("--out", o->out, "Write here instead of over LEVEL");
    v->add_option("--stratum", o->stratum, "The stratum that is shaped, in place of the chosen one");
    v->add_option("--reference", o->reference, "The level that restore strokes bring back");
    return {v, [o] { return stroke(o->file, o->strokes, o->out, o->reference, o->stratum); }};
}

}  // namespace jam::cli
