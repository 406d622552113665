#pragma once
// Rows of what may change: a parameter and its values, as the terminal writes them.

#include "shell/document.h"
#include "study/variation.h"
#include "weigh/range_strip.h"

#include <QComboBox>
#include <QLineEdit>
#include <QVBoxLayout>
#include <QWidget>
#include <vector>

namespace mavlo::app {

class VaryRows : public QWidget {
    Q_OBJECT
  public:
    enum class Takes { Values, Limits };
    /// Fields are named `prefix` with ":path:N", ":values:N" and ":range:N". `hint` stands in an empty field of
    /// values.
    VaryRows(Document& document, const QString& prefix, const QString& hint, Takes takes,
             QWidget* parent = nullptr);

    /// "PATH=VALUES" of every row that is filled in.
    std::vector<std::string> texts() const;
    /// The same as values; a row that cannot be read is marked, and its sentence told.
    Result<std::vector<Variation>> variations() const;
    void add_row(const QString& path = {}, const QString& values = {});
    /// From a fifth below the present value to a fifth above it, in a row that is empty or a new one; nothing
    /// where the parameter varies already.
    void vary(const std::string& path);

  Q_SIGNALS:
    void changed();

  private:
    struct Row {
        QWidget* whole;
        QComboBox* path;
        QLineEdit* values;
        RangeStrip* strip;
    };
    void fill_paths(QComboBox& box) const;
    void begin(const Row& row) const;
    void show_range(const Row& row) const;
    void write_range(const Row& row, double from, double to, int count) const;
    QString range_text(const Parameter& p, double from, double to, int count) const;
    QString range_about(const Parameter& p, double si) const;
    const Parameter* parameter_of(const Row& row) const; ///< null: none, or one that is no number

    Document& m_document;
    QString m_prefix, m_hint;
    Takes m_takes;
    QVBoxLayout* m_column;
    std::vector<Row> m_rows;
};

} // namespace mavlo::app
