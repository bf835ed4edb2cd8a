#pragma once

#include "sheet/sheet.h"

namespace hasami {

/// Rows by the plan's rules of all copies, behind what lies on the sheets already; of what lies there only
/// how far it reaches counts. Neither marks nor shared boxes are added. Throws Stopped.
Layout rowsBehind(std::vector<Sheet> sheets, const std::vector<Copies>& copies, const SheetPlan& plan,
                  const Profile& profile, const std::stop_token& stop);

/// How many whole sets of the copies lie on one empty sheet in rows, at most `most`; 0 where not even one
/// does. REQUIRES: no roll; none of the copies fills. Throws Stopped.
int setsOnSheet(const std::vector<Copies>& copies, const SheetPlan& plan, const Profile& profile, int most,
                const std::stop_token& stop = {});

} // namespace hasami
