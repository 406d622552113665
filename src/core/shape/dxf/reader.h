#pragma once
// What a DXF drawing shows, as pieces: blocks laid in, ellipses and splines as arcs, nothing but lines kept.

#include "quantity/problem.h"
#include "shape/piece.h"

#include <filesystem>
#include <optional>
#include <stop_token>
#include <string>
#include <vector>

namespace mavlo {

struct DxfDrawing {
    std::vector<Piece> pieces;         ///< lengths in units of the drawing
    std::vector<std::string> layers;   ///< by their numbers
    std::optional<int> insunits;       ///< as the header says; nothing where it says none
    std::vector<std::string> texts;    ///< written on the drawing
    std::vector<std::string> left_out; ///< sentences: hidden layers, broken lines, what is no outline
};

/// Reads with dxflib what dxflib reads; sentences instead where the file is none, is damaged or shows nothing.
Result<DxfDrawing> read_dxf(const std::filesystem::path& file, std::stop_token stop = {});

} // namespace mavlo
