#pragma once

#include "app/kit/field_group.h"
#include "profile/profile.h"

#include <functional>
#include <map>
#include <optional>
#include <vector>

class QLineEdit;

namespace hasami {

/// Fields of a machine's profile. Whoever owns it takes the changes and shows the profile again.
class ProfileForm : public FieldGroup {
    Q_OBJECT
public:
    /// A change in words, and what it does to a profile. While a slider moves, its changes follow each other
    /// with its name as their `run`; at the end the last one comes again without.
    using Change =
        std::function<void(const QString&, const std::function<void(Profile&)>&, const QString& run)>;
    ProfileForm(const char* heading, Change change, QWidget* parent = nullptr);

    /// Texts are English and marked by N_().
    struct About {
        const char* name;
        const char* effect;
        std::function<bool(const Profile&)> isShown = {}; ///< none: always
    };
    struct Range {
        QuantityKind kind;
        double least, most;
        const char* zeroWord = nullptr; ///< what stands in place of 0
    };
    void addNumber(About about, Range range, std::function<double(const Profile&)> get,
                   std::function<void(Profile&, double)> set);
    /// With a slider, up to a value, in steps. It goes down to what `least` gives, where its reset leads.
    void addSlider(About about, Range range, double most, double step,
                   std::function<double(const Profile&)> get, std::function<double(const Profile&)> least,
                   std::function<void(Profile&, double)> set);
    void addCheck(About about, std::function<bool(const Profile&)> get,
                  std::function<void(Profile&, bool)> set);
    /// `get` gives the place of what is chosen among the choices.
    void addChoice(About about, const QStringList& choices, std::function<int(const Profile&)> get,
                   std::function<void(Profile&, int)> set);
    struct Line {
        int longest = 127; ///< characters
        int width = 0;     ///< pixels, at least
    };
    void addLine(About about, Line line, std::function<std::string(const Profile&)> get,
                 std::function<void(Profile&, const std::string&)> set);

    void addColour(About about, std::function<PaintColour(const Profile&)> get,
                   std::function<void(Profile&, const PaintColour&)> set);

    void addInkOrder(About about, std::function<InkOrder(const Profile&)> get,
                     std::function<void(Profile&, const InkOrder&)> set);

    /// The bands that something runs on, as text: "50-60, 300-310".
    void addTracks(About about, std::function<std::vector<Track>&(Profile&)> tracks);

    /// A refused value is shown no longer.
    void show(const Profile& profile, LengthUnit unit);

private:
    Change change_;
    std::vector<std::function<void(const Profile&, LengthUnit)>> rows_;
    std::map<const QLineEdit*, std::string> shownOf_;
    std::map<const QWidget*, double> moving_; ///< where a slider is on its way
    LengthUnit unit_ = LengthUnit::millimetre;
};

/// The fields of each part, for panels and the editor.
void addMarkFields(ProfileForm& form);
void addLeadFields(ProfileForm& form);
void addReachFields(ProfileForm& form);
void addRollerField(ProfileForm& form);
void addTabsField(ProfileForm& form);
void addAxesFields(ProfileForm& form);
void addErrorOfCut(ProfileForm& form);
void addLoadLimits(ProfileForm& form);
void addErrorOfPrint(ProfileForm& form);
void addTimes(ProfileForm& form);
void addResolution(ProfileForm& form);
/// Those of a line's tool; hidden where there is no such line.
void addToolFields(ProfileForm& form, const std::function<std::optional<LineKind>()>& which);

} // namespace hasami
