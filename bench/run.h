#pragma once

namespace hasami::bench {

/// The simulated printer against pdftoppm, and how soon a long queue is there.
void registerRun();

} // namespace hasami::bench
