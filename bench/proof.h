#pragma once

namespace hasami::bench {

/// Findings, safe drift, and the picture of what comes out.
void registerProof();

} // namespace hasami::bench
