#include "machine/cell.h"

namespace mavlo {

std::string to_string(Role role) {
    switch (role) {
    case Role::Air:
        return "air";
    case Role::StatorIron:
        return "stator iron";
    case Role::RotorIron:
        return "rotor iron";
    case Role::Conductor:
        return "conductor";
    case Role::Magnet:
        return "magnet";
    case Role::Shaft:
        return "shaft";
    }
    return {};
}

} // namespace mavlo
