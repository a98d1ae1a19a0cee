// Changes of files where it hurts: inside what is packed, with check sums mended, so that what reads the inside is
// really reached. Every tenth change is of plain bytes.
#pragma once

#include "files/disk.h"
#include "levels.h"

namespace jam::test {

Bytes changedPng(const Bytes& bytes, Random& random);    // chunks, header, rows before they are packed
Bytes changedTiff(const Bytes& bytes, Random& random);   // entries of directories
Bytes changedExr(const Bytes& bytes, Random& random);    // attributes of the header
Bytes changedJson(const Bytes& bytes, Random& random);   // values, names, lists
Bytes changedGlb(const Bytes& bytes, Random& random);    // its JSON, its binary part
Bytes changedWords(const Bytes& bytes, Random& random);  // words and numbers of a text
// A part of an archive, by what its name says it is; parts that are missing or exchanged.
Bytes changedZip(const Bytes& bytes, Random& random);

}  // namespace jam::test
