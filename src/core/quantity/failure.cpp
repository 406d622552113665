#include "quantity/failure.h"

#include "quantity/stop_point.h"
#include "quantity/text.h"

#include <exception>
#include <fmt/format.h>
#include <new>

namespace mavlo {

Problem failure_in_words() {
    try {
        throw;
    } catch (const StoppedThere&) {
        return {"", stopped_sentence};
    } catch (const std::bad_alloc&) {
        return {"field",
                "There was not enough memory for this, and it was given up; nothing else is lost. Ask for "
                "fewer points, a rougher quality or fewer threads."};
    } catch (const std::exception& error) {
        return {"field",
                fmt::format("This could not be finished, by a fault of the program ({}); nothing else is lost.",
                            valid_utf8(error.what()))};
    } catch (...) {
        return {"field", "This could not be finished, by a fault of the program; nothing else is lost."};
    }
}

} // namespace mavlo
