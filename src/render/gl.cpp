#include "gl.h"

#include <algorithm>
#include <atomic>
#include <bit>

namespace jam {

namespace {

Result<GLuint> compile(GLenum kind, const std::string& text) {
    const GLuint shader = glCreateShader(kind);
    const char* lines = text.c_str();
    glShaderSource(shader, 1, &lines, nullptr);
    glCompileShader(shader);
    GLint good = 0;
    glGetShaderiv(shader, GL_COMPILE_STATUS, &good);
    if (good) return shader;
    char log[2000] = "";
    glGetShaderInfoLog(shader, sizeof log, nullptr, log);
    glDeleteShader(shader);
    return Error{"", "shader", log, "update the graphics driver, or use software drawing (--software)"};
}

}  // namespace

void setFilter(GLenum target, GLint magnify, GLint minify, GLint wrapX, GLint wrapY) {
    glTexParameteri(target, GL_TEXTURE_MAG_FILTER, magnify);
    glTexParameteri(target, GL_TEXTURE_MIN_FILTER, minify);
    glTexParameteri(target, GL_TEXTURE_WRAP_S, wrapX);
    glTexParameteri(target, GL_TEXTURE_WRAP_T, wrapY);
}

int levelsOf(int width, int height) { return std::bit_width(static_cast<unsigned>(std::max(width, height))); }

namespace {

std::atomic<bool> outOfRoom{false};  // threads take room side by side

void take(GLenum kind, int width, int height, int levels, int slices) {
    const GLenum target = targetOf(slices);
    static const bool storage = epoxy_gl_version() >= 42 || epoxy_has_gl_extension("GL_ARB_texture_storage");
    if (storage && slices) return glTexStorage3D(target, levels, kind, width, height, slices);
    if (storage) return glTexStorage2D(target, levels, kind, width, height);
    const GLenum format = kind == GL_RGBA8 ? GL_RGBA : kind == GL_RG8 ? GL_RG : GL_RED;
    const GLenum type = kind == GL_R32F ? GL_FLOAT : GL_UNSIGNED_BYTE;
    glTexParameteri(target, GL_TEXTURE_MAX_LEVEL, levels - 1);
    for (int n = 0; n < levels; ++n) {
        const int w = std::max(width >> n, 1), h = std::max(height >> n, 1);
        if (slices) glTexImage3D(target, n, static_cast<GLint>(kind), w, h, slices, 0, format, type, nullptr);
        else glTexImage2D(target, n, static_cast<GLint>(kind), w, h, 0, format, type, nullptr);
    }
}

}  // namespace

void takeRoom(GLenum kind, int width, int height, int levels, int slices) {
    take(kind, width, height, levels, slices);
    if (glGetError() == GL_OUT_OF_MEMORY) outOfRoom = true;
}

bool ranOutOfRoom() { return outOfRoom; }

TextureKind boundKind(GLenum target) {
    TextureKind k;
    k.target = static_cast<int>(target);
    const auto look = [target](GLenum what) {
        GLint v = 0;
        glGetTexParameteriv(target, what, &v);
        return v;
    };
    const auto size = [target](GLint n, GLenum what) {
        GLint v = 0;
        glGetTexLevelParameteriv(target, n, what, &v);
        return v;
    };
    k.minify = look(GL_TEXTURE_MIN_FILTER), k.magnify = look(GL_TEXTURE_MAG_FILTER);
    k.wrapX = look(GL_TEXTURE_WRAP_S), k.wrapZ = look(GL_TEXTURE_WRAP_T);
    k.format = size(0, GL_TEXTURE_INTERNAL_FORMAT);
    k.evenX = std::has_single_bit(static_cast<unsigned>(size(0, GL_TEXTURE_WIDTH)));
    k.evenZ = std::has_single_bit(static_cast<unsigned>(size(0, GL_TEXTURE_HEIGHT)));
    k.mipmapped = size(1, GL_TEXTURE_WIDTH) > 0;
    return k;
}

GlTexture textureOf(const TextureKind& k) {
    const auto target = static_cast<GLenum>(k.target);
    GlTexture t = makeTexture();
    glBindTexture(target, t);
    setFilter(target, k.magnify, k.minify, k.wrapX, k.wrapZ);
    const int w = k.evenX ? 16 : 17, h = k.evenZ ? 16 : 17;
    takeRoom(static_cast<GLenum>(k.format), w, h, k.mipmapped ? levelsOf(w, h) : 1,
             target == GL_TEXTURE_2D_ARRAY ? 2 : 0);
    return t;
}

Result<GlProgram> makeProgram(const std::string& vertex, const std::string& fragment, const std::string& defines) {
    const std::string head = "#version 330 core\n" + defines;
    const Result<GLuint> v = compile(GL_VERTEX_SHADER, head + vertex);
    if (!v) return v.error();
    const Result<GLuint> f = compile(GL_FRAGMENT_SHADER, head + fragment);
    if (!f) {
        glDeleteShader(v.value());
        return f.error();
    }
    GlProgram program(glCreateProgram());
    glAttachShader(program, v.value());
    glAttachShader(program, f.value());
    glLinkProgram(program);
    glDeleteShader(v.value());
    glDeleteShader(f.value());
    GLint good = 0;
    glGetProgramiv(program, GL_LINK_STATUS, &good);
    if (good) return program;
    char log[2000] = "";
    glGetProgramInfoLog(program, sizeof log, nullptr, log);
    return Error{"", "shader", log, "update the graphics driver, or use software drawing (--software)"};
}

}  // namespace jam
