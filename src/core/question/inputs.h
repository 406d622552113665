#pragma once
// Inputs of a question: what it takes, and the values given.

#include "machine/design.h"

#include <map>
#include <string>
#include <vector>

namespace mavlo {

struct Facts;

enum class InputKind {
    Number, ///< one quantity
    List,   ///< quantities as "from:to:step" or "a, b, c", with one unit behind them
    Choice, ///< one of some words
    Word,   ///< any text, which the question judges
};

/// An input of a question. Its standard is a text, or the path of the design's parameter it is taken from.
struct QuestionInput {
    std::string key;
    std::string label;
    std::string unit;     ///< empty for plain numbers
    std::string standard; ///< "60", or "= rating.speed"
    std::string help;
    double low = 0, high = 0;
    bool whole = false;
    InputKind kind = InputKind::Number;
    std::string percent_of{};         ///< the parameter that "%" refers to; empty: no percentages
    std::vector<std::string> words{}; ///< of a Choice
    std::vector<std::string> (*more_words)() = nullptr; ///< of a Choice whose words a registry holds
    bool any_order = false;                             ///< the list need not rise
    bool auto_allowed = false; ///< the text "auto" lets the question choose: an empty list
    bool (*applies)(const Facts&) = nullptr; ///< to machines of these facts; null: to all

    std::vector<std::string> choices() const { return more_words ? more_words() : words; }
};

QuestionInput list_input(const char* key, const char* label, const char* unit, const char* standard,
                         const char* help, double low, double high);
/// A list whose standard is "auto".
QuestionInput auto_list_input(const char* key, const char* label, const char* unit, const char* help,
                              double low, double high);

/// The values of a question's inputs, in SI.
class Inputs {
  public:
    double at(const std::string& key) const { return m_numbers.at(key); }
    /// `other` where there is no such number.
    double number_or(const std::string& key, double other) const {
        const auto found = m_numbers.find(key);
        return found == m_numbers.end() ? other : found->second;
    }
    const std::vector<double>& list(const std::string& key) const { return m_lists.at(key); }
    const std::string& word(const std::string& key) const { return m_words.at(key); }
    std::string word_or(const std::string& key, const std::string& other) const {
        const auto found = m_words.find(key);
        return found == m_words.end() ? other : found->second;
    }
    bool contains(const std::string& key) const {
        return m_numbers.contains(key) || m_lists.contains(key) || m_words.contains(key);
    }

    void set(const std::string& key, double value) { m_numbers[key] = value; }
    void set(const std::string& key, std::vector<double> values) { m_lists[key] = std::move(values); }
    void set(const std::string& key, std::string word) { m_words[key] = std::move(word); }

    /// One line an input, for hashing.
    std::string canonical_text() const;

  private:
    std::map<std::string, double> m_numbers;
    std::map<std::string, std::vector<double>> m_lists;
    std::map<std::string, std::string> m_words;
};

/// Reads the texts given (`with`) and the standards of the others; says what is wrong ("--with points: …").
Result<Inputs> read_inputs(const std::string& question, const std::vector<QuestionInput>& wanted,
                           const std::map<std::string, std::string>& with, const Values& values);

/// The value as a text with its unit that reads back the same.
std::string shown_input(const QuestionInput& input, const Inputs& inputs);

} // namespace mavlo
