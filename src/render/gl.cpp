#include "gl.h"

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
