#pragma once

namespace hasami::bench {

/// Bleed, and the way of the knife.
void registerMaking();

} // namespace hasami::bench
