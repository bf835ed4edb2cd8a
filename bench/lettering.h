#pragma once

namespace hasami::bench {

/// Lettering as it is typed and tightened.
void registerLettering();

} // namespace hasami::bench
