// The program as a script would run it, in a folder of its own.
#pragma once

#include <sys/wait.h>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <string>

#include "files/level_file.h"
#include "folder.h"

namespace jam::test {

namespace fs = std::filesystem;

struct Desk {
    Folder folder;
    const fs::path& path = folder.path;

    struct Outcome {
        int code;
        std::string text;
    };
    Outcome run(const std::string& words) const {
        const std::string command = "cd " + path.string() +
                                    " && JAMHILL_SHARE=" JAMHILL_SHARE_FOLDER " " JAMHILL_CLI " " + words + " 2>&1";
        FILE* pipe = ::popen(command.c_str(), "r");
        std::string text;
        char part[512];
        while (std::fgets(part, sizeof part, pipe)) text += part;
        const int status = ::pclose(pipe);
        return {WIFEXITED(status) ? WEXITSTATUS(status) : -1, text};
    }
    void write(const std::string& name, const std::string& text) const { std::ofstream(path / name) << text; }
    Level load(const std::string& name) const { return loadLevel(path / name).take(); }
};

// A hill and a spot of chalk, as strokes of a file.
inline const char* const kHill = R"({"format":"jamhill-strokes","version":1,"strokes":[
    {"tool":"raise","radius":30,"strength":10,"points":[[0,0,1,0],[0,0,1,2]]},
    {"tool":"paint","layer":"Chalk","radius":12,"strength":0.5,"points":[[-20,0],[20,5]]}]})";

}  // namespace jam::test
