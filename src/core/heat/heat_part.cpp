#include "heat/heat_part.h"

namespace mavlo {

std::string to_string(HeatPart part) {
    switch (part) {
    case HeatPart::Winding:
        return "winding in the slots";
    case HeatPart::Ends:
        return "end windings";
    case HeatPart::Teeth:
        return "stator teeth";
    case HeatPart::Yoke:
        return "stator yoke";
    case HeatPart::Rotor:
        return "rotor";
    case HeatPart::Magnets:
        return "magnets";
    case HeatPart::Bars:
        return "cage";
    case HeatPart::Housing:
        return "housing";
    case HeatPart::Shields:
        return "end shields";
    case HeatPart::Shaft:
        return "shaft";
    case HeatPart::Bearings:
        return "bearings";
    case HeatPart::InnerAir:
        return "inner air";
    case HeatPart::Gap:
        return "gap";
    case HeatPart::Coolant:
        return "coolant";
    }
    return "";
}

double HeatLosses::total() const {
    double sum = winding();
    for (const auto& [part, value] : watts)
        if (part != LossPart::Switches) sum += value; // they stand beside the machine
    return sum;
}

} // namespace mavlo
