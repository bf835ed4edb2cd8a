#include "app/sheet/profile_form.h"

#include "app/kit/colour_choice.h"
#include "app/kit/named.h"
#include "app/kit/quantity_row.h"
#include "app/kit/theme.h"
#include "app/kit/tracks_text.h"
#include "app/sheet/ink_order_list.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>

#include <algorithm>
#include <array>
#include <cmath>
#include <utility>

namespace hasami {

ProfileForm::ProfileForm(const char* heading, Change change, QWidget* parent)
    : FieldGroup(heading, parent), change_(std::move(change)) {}

namespace {

bool isShown(const ProfileForm::About& about, const Profile& profile) {
    return !about.isShown || about.isShown(profile);
}

} // namespace

void ProfileForm::addNumber(About about, Range range, std::function<double(const Profile&)> get,
                            std::function<void(Profile&, double)> set) {
    QuantityField* field = addField(about.name, about.effect, range.kind, range.least, range.most,
                                    [this, set = std::move(set)](const QString& label, double value) {
                                        change_(label, [&](Profile& profile) { set(profile, value); }, {});
                                    });
    if (range.zeroWord)
        field->setZeroWord(tr(range.zeroWord));
    rows_.emplace_back([this, field, about, get = std::move(get)](const Profile& profile, LengthUnit unit) {
        FieldGroup::show(field, get(profile), unit, hasami::isShown(about, profile));
    });
}

void ProfileForm::addSlider(About about, Range range, double most, double step,
                            std::function<double(const Profile&)> get,
                            std::function<double(const Profile&)> least,
                            std::function<void(Profile&, double)> set) {
    auto* row = new QuantityRow(
        {about.name, about.effect, range.kind, range.least, range.most, range.least, most, step});
    addWide(row);
    const auto send = [this, row, about, set = std::move(set)](double value, const QString& run) {
        change_(
            tr("%1 %2").arg(tr(about.name), row->words(value)),
            [&](Profile& profile) { set(profile, value); }, run);
    };
    connect(row, &QuantityRow::chosen, this, [this, send, about, row](double value) {
        moving_[row] = value;
        send(value, tr(about.name));
    });
    connect(row, &QuantityRow::rested, this, [this, send, row] {
        if (const auto at = moving_.find(row); at != moving_.end())
            send(std::exchange(moving_, {}).at(row), {});
    });
    rows_.emplace_back([row, about, get = std::move(get), least = std::move(least)](const Profile& profile,
                                                                                    LengthUnit unit) {
        row->setUnit(unit);
        row->limitSlider(least(profile));
        row->setStart(least(profile));
        row->show(get(profile));
        row->setVisible(hasami::isShown(about, profile));
    });
}

void ProfileForm::addCheck(About about, std::function<bool(const Profile&)> get,
                           std::function<void(Profile&, bool)> set) {
    QCheckBox* box = FieldGroup::addCheck(
        about.name, about.effect, [this, set = std::move(set)](const QString& label, bool isOn) {
            change_(label, [&](Profile& profile) { set(profile, isOn); }, {});
        });
    rows_.emplace_back([box, about, get = std::move(get)](const Profile& profile, LengthUnit) {
        box->setChecked(get(profile));
        box->setVisible(hasami::isShown(about, profile));
    });
}

void ProfileForm::addChoice(About about, const QStringList& choices, std::function<int(const Profile&)> get,
                            std::function<void(Profile&, int)> set) {
    QComboBox* box = nullptr;
    box = FieldGroup::addChoice(about.name, about.effect, choices,
                                [this, about, choices, set = std::move(set)](int place) {
                                    change_(tr("%1: %2").arg(tr(about.name), choices[place]),
                                            [&](Profile& profile) { set(profile, place); }, {});
                                });
    rows_.emplace_back([box, about, get = std::move(get)](const Profile& profile, LengthUnit) {
        box->setCurrentIndex(get(profile));
        box->setVisible(hasami::isShown(about, profile));
    });
}

void ProfileForm::addLine(About about, Line size, std::function<std::string(const Profile&)> get,
                          std::function<void(Profile&, const std::string&)> set) {
    auto* line = new QLineEdit;
    line->setMaxLength(size.longest);
    line->setMinimumWidth(size.width);
    QLabel* label = add(*line, about.name, about.effect);
    connect(line, &QLineEdit::editingFinished, this, [this, line, about, get, set = std::move(set)] {
        const std::string text = line->text().trimmed().toStdString();
        if (std::exchange(shownOf_[line], text) != text)
            change_(tr("%1: %2").arg(tr(about.name), QString::fromStdString(text)),
                    [&](Profile& profile) { set(profile, text); }, {});
    });
    rows_.emplace_back([this, line, label, about, get = std::move(get)](const Profile& profile, LengthUnit) {
        shownOf_[line] = get(profile);
        line->setText(QString::fromStdString(shownOf_[line]));
        for (QWidget* widget : std::initializer_list<QWidget*>{line, label})
            widget->setVisible(hasami::isShown(about, profile));
    });
}

void ProfileForm::addColour(About about, std::function<PaintColour(const Profile&)> get,
                            std::function<void(Profile&, const PaintColour&)> set) {
    auto* choice = new ColourChoice(about.name, about.effect, ColourChoice::Colours::printed);
    connect(choice, &ColourChoice::chosen, this,
            [this, about, set = std::move(set)](const PaintColour& colour) {
                change_(tr("%1: %2").arg(tr(about.name), QString::fromStdString(paintColourText(colour))),
                        [&](Profile& profile) { set(profile, colour); }, {});
            });
    addWide(choice);
    rows_.emplace_back([choice, about, get = std::move(get)](const Profile& profile, LengthUnit) {
        choice->show(get(profile), {blackInk()});
        choice->setVisible(hasami::isShown(about, profile));
    });
}

void ProfileForm::addInkOrder(About about, std::function<InkOrder(const Profile&)> get,
                              std::function<void(Profile&, const InkOrder&)> set) {
    auto* list = new InkOrderList;
    auto* label = new QLabel(tr(about.name));
    label->setToolTip(tr(about.effect));
    label->setBuddy(list);
    addWide(label);
    addWide(list);
    connect(list, &InkOrderList::chosen, this, [this, about, set = std::move(set)](const InkOrder& order) {
        change_(tr(about.name), [&](Profile& profile) { set(profile, order); }, {});
    });
    rows_.emplace_back(
        [list, get = std::move(get)](const Profile& profile, LengthUnit) { list->show(get(profile)); });
}

void ProfileForm::addTracks(About about, std::function<std::vector<Track>&(Profile&)> tracks) {
    auto* line = new QLineEdit;
    add(*line, about.name, about.effect);
    line->setPlaceholderText("50-60, 300-310");
    connect(line, &QLineEdit::editingFinished, this, [this, line, about, tracks] {
        constexpr std::size_t most = 50;
        const auto read = readTracks(line->text(), unit_, most);
        setStyled(*line, "wrong", !read);
        if (read && std::exchange(shownOf_[line], tracksText(*read, unit_).toStdString()) !=
                        tracksText(*read, unit_).toStdString())
            change_(tr(about.name), [&](Profile& profile) { tracks(profile) = *read; }, {});
    });
    rows_.emplace_back([this, line, tracks](const Profile& profile, LengthUnit unit) {
        Profile shown = profile;
        const QString text = tracksText(tracks(shown), unit);
        shownOf_[line] = text.toStdString();
        if (!line->hasFocus())
            line->setText(text);
    });
}

void ProfileForm::show(const Profile& profile, LengthUnit unit) {
    unit_ = unit;
    for (const auto& row : rows_)
        row(profile, unit);
}

namespace {

struct Look {
    MarkShape shape;
    bool isOutlined;
};
/// In the order of the choice.
constexpr std::array looks{Look{MarkShape::dot, false}, Look{MarkShape::bracket, false},
                           Look{MarkShape::cross, false}, Look{MarkShape::square, false},
                           Look{MarkShape::square, true}};
constexpr std::array cornerCounts{4, 3, 0};

int placeOfLook(const MarkScheme& marks) {
    const auto found = std::ranges::find_if(looks, [&](const Look& look) {
        return look.shape == marks.shape &&
               (marks.shape != MarkShape::square || look.isOutlined == marks.isOutlined);
    });
    return int(found - looks.begin());
}

/// What the shape and the corners leave no sense in is switched off with them.
void putInOrder(MarkScheme& marks) {
    if (marks.shape == MarkShape::bracket || marks.corners != 4)
        marks.interval = 0;
    if (marks.shape == MarkShape::bracket)
        marks.between = 0;
    marks.distance = std::max(marks.distance, leastDistance(marks));
}

bool hasMarks(const Profile& profile) {
    return profile.marks.corners > 0;
}
bool hasPairs(const Profile& profile) {
    return profile.marks.corners == 4 && profile.marks.shape != MarkShape::bracket;
}

} // namespace

void addMarkFields(ProfileForm& form) {
    form.addChoice(
        {N_("Mark shape"), N_("What the machine's sensor looks for"), hasMarks},
        {tr("Dots"), tr("Corner brackets"), tr("Crosses"), tr("Filled squares"), tr("Outlined squares")},
        [](const Profile& p) { return placeOfLook(p.marks); },
        [](Profile& p, int place) {
            p.marks.shape = looks[std::size_t(place)].shape;
            p.marks.isOutlined = looks[std::size_t(place)].isOutlined;
            putInOrder(p.marks);
        });
    form.addChoice(
        {N_("Corners with marks"), N_("How many corners of the work have a mark")},
        {tr("At four corners"), tr("At three corners"), tr("No marks")},
        [](const Profile& p) {
            return int(std::ranges::find(cornerCounts, p.marks.corners) - cornerCounts.begin());
        },
        [](Profile& p, int place) {
            p.marks.corners = cornerCounts[std::size_t(place)];
            putInOrder(p.marks);
        });
    form.addNumber(
        {N_("Mark size"), N_("Across a dot, a cross or a square; how long a bracket's arms are"), hasMarks},
        {QuantityKind::length, 0.5, 50}, [](const Profile& p) { return p.marks.size; },
        [](Profile& p, double v) { p.marks.size = v; });
    form.addNumber(
        {N_("Line width"), N_("How thick the lines of brackets, crosses and squares are"),
         [](const Profile& p) { return hasMarks(p) && hasLines(p.marks); }},
        {QuantityKind::length, 0.1, 10}, [](const Profile& p) { return p.marks.lineWidth; },
        [](Profile& p, double v) { p.marks.lineWidth = v; });
    form.addSlider(
        {N_("Mark distance"), N_("From the corner of the work to the middle of its mark"), hasMarks},
        {QuantityKind::length, 0, 200}, 50, 0.5, [](const Profile& p) { return p.marks.distance; },
        [](const Profile& p) { return std::ceil(leastDistance(p.marks) * 100) / 100; },
        [](Profile& p, double v) { p.marks.distance = v; });
    form.addNumber(
        {N_("Quiet zone"), N_("Nothing is printed this close to a mark"), hasMarks},
        {QuantityKind::length, 0, 100}, [](const Profile& p) { return p.marks.quiet; },
        [](Profile& p, double v) { p.marks.quiet = v; });
    form.addNumber(
        {N_("Pairs every"),
         N_("Along the medium, pairs of marks stand at both sides of the work at most this far "
            "apart; 0: marks at the corners alone"),
         hasPairs},
        {QuantityKind::length, 0, 10'000, N_("none")}, [](const Profile& p) { return p.marks.interval; },
        [](Profile& p, double v) { p.marks.interval = v; });
    form.addCheck(
        {N_("Cut in sections"),
         N_("The machine cuts from pair to pair: no sticker lies across the line between a pair"),
         [](const Profile& p) { return hasPairs(p) && p.marks.interval > 0; }},
        [](const Profile& p) { return p.marks.inSections; },
        [](Profile& p, bool isOn) { p.marks.inSections = isOn; });
    form.addNumber(
        {N_("Marks between"),
         N_("How many more marks stand between the stickers, where there is room for them"),
         [](const Profile& p) { return hasMarks(p) && p.marks.shape != MarkShape::bracket; }},
        {QuantityKind::count, 0, 100, N_("none")}, [](const Profile& p) { return double(p.marks.between); },
        [](Profile& p, double v) { p.marks.between = int(v); });
    form.addColour(
        {N_("Mark colour"),
         N_("What marks, and all else at the leading edge, are printed in, as #RRGGBB or as inks in "
            "percent; the machine's sensor has to see it"),
         hasMarks},
        [](const Profile& p) { return p.marks.colour; },
        [](Profile& p, const PaintColour& colour) { p.marks.colour = colour; });
    form.addCheck(
        {N_("White under the marks"),
         N_("White ink under each mark and its quiet zone, for dark, coloured and clear media"), hasMarks},
        [](const Profile& p) { return p.marks.isOnWhite; },
        [](Profile& p, bool isOn) { p.marks.isOnWhite = isOn; });
}

void addLeadFields(ProfileForm& form) {
    form.addCheck(
        {N_("Arrow"), N_("An arrow that points to the edge which is fed in first")},
        [](const Profile& p) { return p.lead.hasArrow; },
        [](Profile& p, bool isOn) { p.lead.hasArrow = isOn; });
    form.addCheck(
        {N_("Ticks for the rollers"), N_("A tick at the edge where each roller stands")},
        [](const Profile& p) { return p.lead.hasTicks; },
        [](Profile& p, bool isOn) { p.lead.hasTicks = isOn; });
    form.addCheck(
        {N_("Line of text"),
         N_("The job's name, the sheet's number, the day and the medium's size, to be read by people")},
        [](const Profile& p) { return p.lead.hasText; },
        [](Profile& p, bool isOn) { p.lead.hasText = isOn; });
    form.addChoice(
        {N_("Job code"), N_("A code that holds the job's name and the sheet's number")},
        {tr("No job code"), tr("Job code as Data Matrix"), tr("Job code as Code 128")},
        [](const Profile& p) { return int(p.lead.code); },
        [](Profile& p, int place) { p.lead.code = CodeKind(place); });
    const auto hasCode = [](const Profile& p) { return p.lead.code != CodeKind::none; };
    form.addChoice(
        {N_("Place of the code"), N_("Where across the medium the code stands"), hasCode},
        {tr("Code at the first side"), tr("Code in the middle"), tr("Code at the last side")},
        [](const Profile& p) { return int(p.lead.place); },
        [](Profile& p, int place) { p.lead.place = LeadPlace(place); });
    form.addNumber(
        {N_("Module"), N_("How wide the code's smallest squares or bars are"), hasCode},
        {QuantityKind::length, 0.2, 3}, [](const Profile& p) { return p.lead.module; },
        [](Profile& p, double v) { p.lead.module = v; });
}

void addReachFields(ProfileForm& form) {
    form.addNumber(
        {N_("Not reached at the front"), N_("How much of the leading edge the machine does not reach")},
        {QuantityKind::length, 0, 1000}, [](const Profile& p) { return p.cutter.reach.leading; },
        [](Profile& p, double v) { p.cutter.reach.leading = v; });
    form.addNumber(
        {N_("Not reached at the end"), N_("How much behind the work the machine needs to hold the medium")},
        {QuantityKind::length, 0, 1000}, [](const Profile& p) { return p.cutter.reach.trailing; },
        [](Profile& p, double v) { p.cutter.reach.trailing = v; });
    form.addNumber(
        {N_("Not reached at the sides"), N_("How much along both sides the machine does not reach")},
        {QuantityKind::length, 0, 1000}, [](const Profile& p) { return p.cutter.reach.sides; },
        [](Profile& p, double v) { p.cutter.reach.sides = v; });
}

void addRollerField(ProfileForm& form) {
    form.addTracks({N_("Rollers"),
                    N_("Bands across the medium where rollers run and nothing may lie: from-to, from-to")},
                   [](Profile& p) -> std::vector<Track>& { return p.cutter.rollers; });
}

void addAxesFields(ProfileForm& form) {
    form.addChoice(
        {N_("Origin of the cut"), N_("Where the cutter counts from, in HPGL files")},
        {tr("Cut from the medium's corner"), tr("Cut from the first mark")},
        [](const Profile& p) { return int(p.cutter.axes.origin); },
        [](Profile& p, int place) { p.cutter.axes.origin = CutAxes::Origin(place); });
    form.addCheck(
        {N_("Axes mirrored"), N_("The cutter counts across the medium from the other side")},
        [](const Profile& p) { return p.cutter.axes.isMirrored; },
        [](Profile& p, bool isOn) { p.cutter.axes.isMirrored = isOn; });
    form.addCheck(
        {N_("Axes turned"), N_("The cutter's x runs across the medium, its y along it")},
        [](const Profile& p) { return p.cutter.axes.isTurned; },
        [](Profile& p, bool isOn) { p.cutter.axes.isTurned = isOn; });
}

void addErrorOfCut(ProfileForm& form) {
    form.addNumber(
        {N_("Error of the cut"),
         N_("How far a cut may lie off the print once the marks are read; until it is measured, 0.3 mm")},
        {QuantityKind::length, 0, 10, N_("assumed")}, [](const Profile& p) { return p.cutter.error; },
        [](Profile& p, double v) { p.cutter.error = v; });
}

void addLoadLimits(ProfileForm& form) {
    form.addNumber(
        {N_("Largest turn of the sheet"),
         N_("How far a sheet may be turned that is put in by hand, in degrees: marks that say more are asked "
            "about before anything is cut")},
        {QuantityKind::angle, 0.1, 45}, [](const Profile& p) { return p.cutter.load.turn; },
        [](Profile& p, double v) { p.cutter.load.turn = v; });
    form.addNumber(
        {N_("Largest shift of the sheet"),
         N_("How far a sheet may lie from its place that is put in by hand: marks that say more are asked "
            "about before anything is cut")},
        {QuantityKind::length, 0.1, 1000}, [](const Profile& p) { return p.cutter.load.shift; },
        [](Profile& p, double v) { p.cutter.load.shift = v; });
}

void addTimes(ProfileForm& form) {
    form.addNumber(
        {N_("Acceleration"),
         N_("How fast the cutter gains speed, in mm a second each second: at corners and on "
            "short ways it never gets to its full speed")},
        {QuantityKind::number, 0, 100'000, N_("not known")},
        [](const Profile& p) { return p.cutter.acceleration; },
        [](Profile& p, double v) { p.cutter.acceleration = v; });
    form.addNumber(
        {N_("Seconds to change a tool"), N_("How long a person takes to put in another tool")},
        {QuantityKind::number, 0, 3600, N_("none")}, [](const Profile& p) { return p.cutter.toolChange; },
        [](Profile& p, double v) { p.cutter.toolChange = v; });
}

void addErrorOfPrint(ProfileForm& form) {
    form.addNumber(
        {N_("Error of the print"),
         N_("How far the print may be off within a sheet; until it is measured, 0.3 mm")},
        {QuantityKind::length, 0, 10, N_("assumed")}, [](const Profile& p) { return p.printer.error; },
        [](Profile& p, double v) { p.printer.error = v; });
}

void addResolution(ProfileForm& form) {
    form.addNumber(
        {N_("Dots an inch"), N_("How fine the printer prints: codes are checked against it")},
        {QuantityKind::count, 72, 9600}, [](const Profile& p) { return double(p.printer.resolution); },
        [](Profile& p, double v) { p.printer.resolution = int(v); });
}

void addTabsField(ProfileForm& form) {
    form.addCheck(
        {N_("It makes tabs by itself"),
         N_("On: perforated lines are solid in the files, and the machine lifts its knife for the "
            "tabs. Off: the files hold only what is cut")},
        [](const Profile& p) { return p.cutter.makesTabs; },
        [](Profile& p, bool isOn) { p.cutter.makesTabs = isOn; });
}

void addToolFields(ProfileForm& form, const std::function<std::optional<LineKind>()>& which) {
    const auto add = [&](const char* name, const char* effect, ProfileForm::Range range, auto get, auto set) {
        form.addNumber(
            {name, effect, [which](const Profile&) { return which().has_value(); }}, range,
            [which, get](const Profile& p) { return get(p.cutter.tool(which().value_or(LineKind::kiss))); },
            [which, set](Profile& p, double v) {
                if (const auto kind = which())
                    set(p.cutter.tools[std::size_t(*kind)], v);
            });
    };
    add(
        N_("Tool holder"), N_("The holder that the tool is in; the machine pauses where it changes"),
        {QuantityKind::count, 1, 8}, [](const Tool& t) { return double(t.holder); },
        [](Tool& t, double v) { t.holder = int(v); });
    add(
        N_("Speed in mm/s"), N_("How fast the knife goes"), {QuantityKind::number, 1, 10'000},
        [](const Tool& t) { return t.speed; }, [](Tool& t, double v) { t.speed = v; });
    add(
        N_("Force in g"), N_("How hard the knife presses; 0: as set on the machine"),
        {QuantityKind::number, 0, 10'000, N_("as set")}, [](const Tool& t) { return t.force.value_or(0); },
        [](Tool& t, double v) { t.force = v >= 1 ? std::optional(v) : std::nullopt; });
    add(
        N_("Blade depth"), N_("How far the blade stands out of its holder; 0: as it is set there"),
        {QuantityKind::length, 0, 10, N_("as set")}, [](const Tool& t) { return t.bladeDepth.value_or(0); },
        [](Tool& t, double v) { t.bladeDepth = v >= 0.01 ? std::optional(v) : std::nullopt; });
    add(
        N_("Passes"), N_("How often the knife goes along the line"), {QuantityKind::count, 1, 20},
        [](const Tool& t) { return double(t.passes); }, [](Tool& t, double v) { t.passes = int(v); });
    add(
        N_("Blade offset"),
        N_("How far the blade's tip trails behind its holder; 0: the machine compensates for it"),
        {QuantityKind::length, 0, 2, N_("none")}, [](const Tool& t) { return t.bladeOffset; },
        [](Tool& t, double v) { t.bladeOffset = v; });
    add(
        N_("Overcut"), N_("How far a closed line is cut past its start, so that its ends meet"),
        {QuantityKind::length, 0, 10, N_("none")}, [](const Tool& t) { return t.overcut; },
        [](Tool& t, double v) { t.overcut = v; });
}

} // namespace hasami
