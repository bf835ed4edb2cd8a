#pragma once

// The headers of qpdf that Hasami uses. JSON.hh of qpdf 11.3 does not compile with clang in C++20 (a vector
// of an incomplete class in a destructor) and nothing here needs it, so its include guard is set and its
// class declared.
#define JSON_HH
class JSON;

#include <qpdf/Buffer.hh>
#include <qpdf/QPDF.hh>
#include <qpdf/QPDFAcroFormDocumentHelper.hh>
#include <qpdf/QPDFObjectHandle.hh>
#include <qpdf/QPDFPageDocumentHelper.hh>
#include <qpdf/QPDFPageObjectHelper.hh>
#include <qpdf/QPDFWriter.hh>
