#pragma once

namespace hasami::bench {

/// How long the window answers no event.
void registerResponsiveness();

} // namespace hasami::bench
