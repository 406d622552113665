#pragma once
// The answer to a question: figures, curves and what they cost.

#include "quantity/problem.h"

#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace mavlo {

struct Figure {
    std::string name;
    std::optional<double> value; ///< empty where it does not apply
    std::string unit;
    /// Estimate of what the mesh leaves, same unit; empty where not asked for or exact.
    std::optional<double> error{};
    bool operator==(const Figure&) const = default;
};

struct Curve {
    std::string name, unit, x_name, x_unit;
    std::vector<double> x, y;
    /// What stands at each x, where x only numbers it; else empty.
    std::vector<std::string> labels{};
    bool operator==(const Curve&) const = default;
};

/// A figure over two quantities.
struct Map {
    std::string name, unit, x_name, x_unit, y_name, y_unit;
    std::vector<double> x, y;
    std::vector<std::vector<double>> z; ///< z[j][i] at y[j], x[i]; not a number outside the envelope
    bool operator==(const Map&) const;  ///< two that are not numbers count as equal
};

struct Effort {
    int solves = 0, newton_steps = 0, unknowns = 0, threads = 1;
    int elements = 0;          ///< triangles of the mesh
    double smallest_angle = 0; ///< of all triangles, deg: the mesh's quality
    double seconds = 0;
    /// What the figures shall be right to and what the mesh is estimated to leave, as a share of the
    /// waveforms' peak (of the mean where no waveform counts); 0: the mesh was not judged.
    double accuracy_aimed = 0, accuracy_estimated = 0;
    bool operator==(const Effort&) const = default;
};

/// Files of finished parts that are needless once the answer is kept. No part of the answer.
struct Spent {
    std::vector<std::filesystem::path> files;
    bool operator==(const Spent&) const { return true; }
};

struct Answer {
    std::string question, variant;
    std::string design; ///< SHA-256 of what the design's figures depend on
    std::string quality;
    std::map<std::string, std::string> inputs; ///< as used, with units
    std::string sentence;                      ///< the answer in one sentence
    std::vector<Figure> figures;
    std::vector<Curve> curves;
    std::vector<Map> maps;
    Effort effort;
    Spent spent{};

    std::optional<double> figure(const std::string& name) const;
    bool has_errors() const; ///< some figure carries its error
    const Curve* curve(const std::string& name) const;
    const Map* map(const std::string& name) const;
    bool operator==(const Answer&) const = default;
};

/// JSON as docs/cli.md describes it, two blanks of indentation.
std::string answer_to_json(const Answer& answer);
Result<Answer> answer_from_json(const std::string& text);
/// Figures as comment lines, then a block of columns for each set of curves over the same x.
std::string answer_to_csv(const Answer& answer);

} // namespace mavlo
