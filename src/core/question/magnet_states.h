#pragma once
// A machine with its magnets as they are, and as a current leaves them.

#include "figure/weakening.h"
#include "question/period.h"

namespace mavlo {

/// Solves periods of the slices of a stack with all magnets whole or weakened; the effort goes into the answer.
class MagnetStates {
  public:
    using Share = Weakening::Share;
    static constexpr int weakening_rounds = 16; ///< at most

    /// Periods of so many positions; `price`: fields that are told as the whole of the progress.
    MagnetStates(QuestionContext& context, int points, int price);

    double knee() const { return m_knee; } ///< of the first layer's grade, T
    double lost(const std::vector<MagnetElement>& list) const { return share_below_knee(list, m_lines); }
    double margin(const MagnetElement& element) const {
        return element.lowest - m_lines[element.substance].knee;
    }
    /// T, of all but one per cent.
    double margin(const std::vector<MagnetElement>& list) const;
    bool is_measured() const; ///< what is lost shows before the knee, too
    bool is_mixed() const;    ///< grades of different knees
    const std::vector<Slice>& slices() const { return m_slices; }

    /// One slice over a period: it sees the stack's currents turned back against its own magnets.
    Result<PeriodWithLoci> period(Dq stack_current, const Share& share, const Slice& slice);
    /// Of all slices with whole magnets, each by its share of the stack.
    Result<std::vector<MagnetElement>> elements(Dq current);
    /// What each element keeps after this current, slice by slice.
    Result<std::vector<Share>> weakened(Dq current);
    /// How far the worst element still was from its curve, as a share of the remanence.
    double residual() const { return m_residual; }

  private:
    Result<std::vector<MagnetElement>> elements(Dq current, const Share& share, const Slice& slice);
    Result<Share> weakened(Dq current, const Slice& slice);
    std::optional<Problem> make_model(const Share& share);
    std::optional<Problem> without_knee() const;

    QuestionContext& m_c;
    const Machine& m_machine;
    int m_points, m_price;
    std::vector<Slice> m_slices;
    double m_knee, m_residual = 0;
    std::vector<MagnetLine> m_lines;
    std::shared_ptr<const MachineModel> m_model;
    Share m_share;
};

} // namespace mavlo
