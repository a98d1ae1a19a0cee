// OpenGL objects that clean up after themselves. Only files of this folder include it; they must have a context
// current, also when objects are destroyed.
#pragma once

#include <epoxy/gl.h>
#include <string>
#include <utility>

#include "base/result.h"
#include "variant.h"

namespace jam {

// Owns one OpenGL name; Release frees it.
template <void (*Release)(GLuint)>
class GlObject {
public:
    GlObject() = default;
    explicit GlObject(GLuint id) : id_(id) {}
    GlObject(GlObject&& o) noexcept : id_(std::exchange(o.id_, 0)) {}
    GlObject& operator=(GlObject&& o) noexcept {
        std::swap(id_, o.id_);
        return *this;
    }
    ~GlObject() {
        if (id_) Release(id_);
    }
    operator GLuint() const { return id_; }

private:
    GLuint id_ = 0;
};

inline void releaseTexture(GLuint id) { glDeleteTextures(1, &id); }
inline void releaseBuffer(GLuint id) { glDeleteBuffers(1, &id); }
inline void releaseArray(GLuint id) { glDeleteVertexArrays(1, &id); }
inline void releaseFrame(GLuint id) { glDeleteFramebuffers(1, &id); }
inline void releaseProgram(GLuint id) { glDeleteProgram(id); }

using GlTexture = GlObject<releaseTexture>;
using GlBuffer = GlObject<releaseBuffer>;
using GlArray = GlObject<releaseArray>;
using GlFrame = GlObject<releaseFrame>;
using GlProgram = GlObject<releaseProgram>;

template <class Object, class Generate>
Object generated(Generate generate) {
    GLuint id;
    generate(1, &id);
    return Object(id);
}
inline GlTexture makeTexture() { return generated<GlTexture>(glGenTextures); }
inline GlBuffer makeBuffer() { return generated<GlBuffer>(glGenBuffers); }
inline GlArray makeArray() { return generated<GlArray>(glGenVertexArrays); }
inline GlFrame makeFrame() { return generated<GlFrame>(glGenFramebuffers); }

// Sets how the bound texture is filtered and what lies beyond its edges, along x and y.
void setFilter(GLenum target, GLint magnify, GLint minify, GLint wrapX, GLint wrapY);

// The kind of a texture with so many slices, or of a plain one with none.
inline GLenum targetOf(int slices) { return slices ? GL_TEXTURE_2D_ARRAY : GL_TEXTURE_2D; }
// Takes room for the bound texture and its mipmaps, once and for all, so that no driver takes it twice; what is in it
// is not told. `kind` is GL_R8, GL_RG8, GL_RGBA8 or GL_R32F. With `slices` the texture is an array of so many.
void takeRoom(GLenum kind, int width, int height, int levels = 1, int slices = 0);
// Whether the driver had no memory for some texture, since the program began.
bool ranOutOfRoom();
// The kind of the texture that is bound to the active unit; a small one of a kind, bound there.
TextureKind boundKind(GLenum target);
GlTexture textureOf(const TextureKind& kind);
// Mipmaps down to one texel.
int levelsOf(int width, int height);

// Compiles and links; `defines` is put below the version line. Errors: the driver's log.
Result<GlProgram> makeProgram(const std::string& vertex, const std::string& fragment, const std::string& defines);

inline GLint at(const GlProgram& p, const char* uniform) { return glGetUniformLocation(p, uniform); }

}  // namespace jam
