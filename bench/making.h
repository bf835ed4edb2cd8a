#pragma once

namespace hasami::bench {

/// Bleed, and the cutting order.
void registerMaking();

} // namespace hasami::bench
