package tables

import (
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
)

// settingsRow is settings with the names of what they belong to, as typed.
type settingsRow struct {
	bench.Profile
	machine, resin, parent string
}

// settings is settings a row, for a machine and a resin.
var settings = kind[settingsRow]{
	name: "settings", title: "Settings", each: "settings",
	about: "Settings a row. What a row leaves open it takes from the template of its machine, where one was chosen; where a row names no lift and no waits, it gets the usual ones of its machine.",
	columns: []column[settingsRow]{
		text("machine", "Machine", func(r *settingsRow) *string { return &r.machine }).needed().carried(),
		text("resin", "Resin", func(r *settingsRow) *string { return &r.resin }).needed().carried(),
		number("layer_um", "Layer height", func(r *settingsRow) *float64 { return &r.LayerUM }).needed().carried(),
		maybe("exposure_s", "Exposure", func(r *settingsRow) **float64 { return &r.ExposureS }),
		whole("bottom_layers", "Bottom layers", func(r *settingsRow) **int64 { return &r.BottomLayers }).carried(),
		maybe("bottom_exposure_s", "Bottom exposure", func(r *settingsRow) **float64 { return &r.BottomExposureS }).carried(),
		whole("transition_layers", "Transition layers", func(r *settingsRow) **int64 { return &r.TransitionLayers }).carried(),
		choice("basis", "Basis", func(r *settingsRow) *string { return &r.Basis }, "default", "adjusted", "borrowed", "own", "sealed", "calibrated", "series").carried(),
		text("name", "Own name", func(r *settingsRow) *string { return &r.Name }),
		text("parent", "Made from", func(r *settingsRow) *string { return &r.parent }).as("P3").more(),
		text("sealed_name", "Sealed profile", func(r *settingsRow) *string { return &r.SealedName }).more(),
		moves("lift", "Lift", func(r *settingsRow) *bench.Moves { return &r.Lift }).more().carried(),
		moves("retract", "Retract", func(r *settingsRow) *bench.Moves { return &r.Retract }).more().carried(),
		maybe("release_s", "Release of a tilting vat", func(r *settingsRow) **float64 { return &r.ReleaseS }).more().carried(),
		maybe("wait_before_s", "Wait before light", func(r *settingsRow) **float64 { return &r.WaitBeforeS }).more().carried(),
		maybe("wait_after_s", "Wait after light", func(r *settingsRow) **float64 { return &r.WaitAfterS }).more().carried(),
		maybe("wait_lift_s", "Rest after lift", func(r *settingsRow) **float64 { return &r.WaitLiftS }).more().carried(),
		maybe("light_power_pct", "Light power", func(r *settingsRow) **float64 { return &r.LightPowerPct }).more().carried(),
		text("antialiasing", "Anti-aliasing", func(r *settingsRow) *string { return &r.Antialiasing }).more().carried(),
		options("options", "Further values", func(r *settingsRow) *bench.Options { return &r.Options }).more().carried(),
		text("note", "Note", func(r *settingsRow) *string { return &r.Note }).more(),
	},
	fresh:    func() settingsRow { return settingsRow{Profile: bench.Profile{Basis: "default", Antialiasing: "none"}} },
	onRecord: settingsOnRecord,
	begin: func(w *Tasks, t *store.Tx, _ bool) (batch[settingsRow], error) {
		known, err := settingsOnRecord(w, t)
		if err != nil {
			return nil, err
		}
		out := &settingsRows{w: w, t: t, known: known}
		if out.all, err = t.Profiles(); err != nil {
			return nil, err
		}
		if out.machines, err = machinesNamed(t); err != nil {
			return nil, err
		}
		if out.resins, err = resinsNamed(t); err != nil {
			return nil, err
		}
		out.profiles, err = settingsNamed(t)
		return out, err
	},
	offered: func(t *store.Tx) (map[string][]string, error) {
		machines, err := machinesNamed(t)
		if err != nil {
			return nil, err
		}
		resins, err := resinsNamed(t)
		if err != nil {
			return nil, err
		}
		profiles, err := settingsNamed(t)
		return map[string][]string{"machine": offers(machines), "resin": offers(resins), "parent": offers(profiles)}, err
	},
}

// settingsNamed are the settings that may be printed with, by code, and by what tells them
// apart, whose machine and resin stand with it.
func settingsNamed(t *store.Tx) ([]named, error) {
	profiles, err := t.Profiles()
	if err != nil {
		return nil, err
	}
	names, err := kit.KitNames(t)
	out := []named{}
	for _, p := range profiles {
		if p.ArchivedMS == nil {
			out = append(out, named{p.ID, p.Code, fmt.Sprintf("%s, %s, %s", kit.SettingsName(p), names[p.MachineID], names[p.ResinID])})
		}
	}
	return out, err
}

func settingsOnRecord(_ *Tasks, t *store.Tx) ([]settingsRow, error) {
	profiles, err := t.Profiles()
	if err != nil {
		return nil, err
	}
	machines, err := machinesNamed(t)
	if err != nil {
		return nil, err
	}
	resins, err := resinsNamed(t)
	out := []settingsRow{}
	codes := map[string]string{}
	for _, p := range profiles {
		codes[p.ID] = p.Code
		if p.ArchivedMS == nil {
			out = append(out, settingsRow{p, nameOf(p.MachineID, machines), nameOf(p.ResinID, resins), codes[quantity.Or(p.ParentID, "")]})
		}
	}
	return out, err
}

// settingsRows are the settings on record and those of the rows before.
type settingsRows struct {
	w                          *Tasks
	t                          *store.Tx
	known                      []settingsRow
	all                        []bench.Profile
	machines, resins, profiles []named
}

func (b *settingsRows) look(r *settingsRow, filled map[string]bool) (fate, says string, err error) {
	if r.MachineID, err = find(r.machine, "machine", b.machines); err != nil {
		return "", "", inColumn("machine", err)
	}
	if r.ResinID, err = find(r.resin, "resin", b.resins); err != nil {
		return "", "", inColumn("resin", err)
	}
	r.machine, r.resin = nameOf(r.MachineID, b.machines), nameOf(r.ResinID, b.resins)
	if r.parent != "" {
		id, err := find(r.parent, "settings", b.profiles)
		if err != nil {
			return "", "", inColumn("parent", err)
		}
		r.ParentID = &id
		r.parent = b.profiles[slices.IndexFunc(b.profiles, func(n named) bool { return n.id == id })].code
	}
	begun := b.begin(r, filled)
	if err := r.Check(); err != nil {
		return "", "", err
	}
	for _, k := range b.known {
		if k.MachineID == r.MachineID && k.ResinID == r.ResinID && k.Basis == r.Basis && len(differing(settings.columns, filled, *r, k)) == 0 {
			if k.Code == "" {
				return Same, "as in a row before this one", nil
			}
			return Same, "on record as " + k.Code, nil
		}
	}
	if r.Profile, err = kit.ReadyProfile(b.t, r.Profile); err != nil {
		return "", "", err
	}
	if beyond := bench.Beyond(r.Profile); len(beyond) > 0 {
		return "", "", beyond[0]
	}
	b.known = append(b.known, *r)
	return Kept, begun + say.List(kit.SettingsWords(r.Profile)), nil
}

// begin gives a row what it leaves open from the template of its machine, and says so. What was made
// from other settings begins with nothing.
func (b *settingsRows) begin(r *settingsRow, filled map[string]bool) string {
	template := bench.TemplateOf(b.all, r.MachineID)
	if template == nil || r.ParentID != nil || r.Basis == "sealed" {
		return ""
	}
	if !filled["antialiasing"] {
		r.Antialiasing = ""
	}
	r.BeginsWith(*template)
	return "begins with " + template.Code + ": "
}

func (b *settingsRows) keep(t *store.Tx, r settingsRow) error {
	return b.w.kit.KeepProfile(t, &r.Profile)
}

// inColumn is an error of a column.
func inColumn(name string, err error) error { return quantity.Errorf(name, "%s", messageOf(err)) }
