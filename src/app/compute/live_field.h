#pragma once
// The field that follows the hand: the newest request wins, older ones are dropped.

#include "compute/model_cache.h"
#include "figure/current_wave.h"
#include "figure/line_profile.h"
#include "figure/picture.h"

#include <QImage>
#include <QObject>
#include <condition_variable>
#include <functional>
#include <memory>
#include <mutex>
#include <optional>
#include <thread>

namespace mavlo::app {

/// A field as it was solved, for who colours its picture.
struct FieldInHand {
    std::shared_ptr<const MachineModel> model;
    const FieldSolution& solution;
    CurrentWave current;
    const MaterialLibrary& materials; ///< the project's own
    bool hand_moves = false;          ///< more such fields come, and the last one comes again
};

struct LiveRequest {
    std::shared_ptr<const DrawnMachine> built;
    double angle = 0; ///< rotor, rad
    CurrentWave current;
    Quality quality = Quality::Draft;
    bool hand_moves = false; ///< an estimate of what is slow will do
    /// Gives the picture other colours than |B|; may be empty.
    std::function<void(FieldPicture&, const FieldInHand&)> colour{};
    /// Along which the field is wanted, m; from first to second.
    std::optional<std::pair<Point, Point>> line{};
    /// Paints the field as the view that asks will want it, on the thread that solved it; may be empty.
    std::function<QImage(const FieldPicture&)> paint{};
};

/// A solved field with all that Probe shows of it.
struct LiveResult {
    LiveRequest request;
    FieldPicture picture;
    QImage image; ///< of request.paint
    double torque = 0;
    Dq flux_linkage;
    PhaseValues phase_current{}, phase_flux{};
    std::vector<double> gap_radial, gap_tangential; ///< over a whole turn, middle of the gap
    std::optional<LineProfile> line{};              ///< of request.line
    IronLevels levels;
    double milliseconds = 0;
    Problems problems; ///< not empty: there is no field
};

class LiveField : public QObject {
    Q_OBJECT
  public:
    explicit LiveField(ModelCache& cache, QObject* parent = nullptr);
    ~LiveField() override;

    void request(const LiveRequest& request);
    bool is_idle() const;
    void end(); ///< waits for what runs; nothing is begun any more

  Q_SIGNALS:
    void solved(std::shared_ptr<const LiveResult> result);

  private:
    void run(const std::stop_token& quit);
    std::shared_ptr<const LiveResult> solve(const LiveRequest& request);

    ModelCache& m_cache;
    mutable std::mutex m_mutex;
    std::condition_variable_any m_wake;
    std::optional<LiveRequest> m_next;
    int m_running = 0;                     ///< requests taken whose results have not been shown yet
    std::unique_ptr<FieldSolver> m_solver; // used by the thread alone
    std::optional<FieldSolution> m_last;
    std::jthread m_thread;
};

} // namespace mavlo::app
