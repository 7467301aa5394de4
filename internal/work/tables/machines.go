package tables

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
)

// machines is a machine a row. What is known of a machine beyond numbers (its quirks) has its
// place on its page.
var machines = kind[bench.Machine]{
	name: "machines", title: "Machines", each: "machine",
	about: "A machine a row. Panels and projectors need their pixels and their lift, or the release of a tilting vat; a laser its spot and its hatch.",
	columns: []column[bench.Machine]{
		text("name", "Name", func(m *bench.Machine) *string { return &m.Name }).needed(),
		choice("light_engine", "Light", func(m *bench.Machine) *string { return &m.LightEngine }, "masked_lcd", "projector", "laser").needed().carried(),
		number("width_mm", "Plate width", func(m *bench.Machine) *float64 { return &m.WidthMM }).needed(),
		number("depth_mm", "Plate depth", func(m *bench.Machine) *float64 { return &m.DepthMM }).needed(),
		number("height_mm", "Height", func(m *bench.Machine) *float64 { return &m.HeightMM }).needed(),
		whole("px_x", "Pixels across", func(m *bench.Machine) **int64 { return &m.PxX }),
		whole("px_y", "Pixels deep", func(m *bench.Machine) **int64 { return &m.PxY }),
		moves("lift", "Lift", func(m *bench.Machine) *bench.Moves { return &m.Lift }).carried(),
		moves("retract", "Retract", func(m *bench.Machine) *bench.Moves { return &m.Retract }).carried(),
		maybe("release_s", "Release of a tilting vat", func(m *bench.Machine) **float64 { return &m.ReleaseS }),
		maybe("price_list", "List price", func(m *bench.Machine) **float64 { return &m.PriceList }),
		text("maker", "Maker", func(m *bench.Machine) *string { return &m.Maker }),
		text("supplied_by", "Supplied by", func(m *bench.Machine) *string { return &m.SuppliedBy }).carried(),
		number("dial_step_s", "Smallest step of exposure", func(m *bench.Machine) *float64 { return &m.DialStepS }).more(),
		maybe("irradiance_mw_cm2", "Irradiance", func(m *bench.Machine) **float64 { return &m.IrradianceMWCM2 }).more(),
		maybe("spot_um", "Spot", func(m *bench.Machine) **float64 { return &m.SpotUM }).more(),
		maybe("hatch_mm", "Hatch", func(m *bench.Machine) **float64 { return &m.HatchMM }).more(),
		maybe("hatch_mm_s", "Hatch speed", func(m *bench.Machine) **float64 { return &m.HatchMMS }).more(),
		whole("contour_passes", "Outlines drawn", func(m *bench.Machine) **int64 { return &m.ContourPasses }).more(),
		maybe("contour_mm_s", "Outline speed", func(m *bench.Machine) **float64 { return &m.ContourMMS }).more(),
		maybe("settle_s", "Settling a layer", func(m *bench.Machine) **float64 { return &m.SettleS }).more(),
		number("wait_before_s", "Wait before light", func(m *bench.Machine) *float64 { return &m.WaitBeforeS }).more(),
		number("wait_after_s", "Wait after light", func(m *bench.Machine) *float64 { return &m.WaitAfterS }).more(),
		number("wait_lift_s", "Rest after lift", func(m *bench.Machine) *float64 { return &m.WaitLiftS }).more(),
		number("start_s", "Start of a print", func(m *bench.Machine) *float64 { return &m.StartS }).more(),
		number("end_s", "End of a print", func(m *bench.Machine) *float64 { return &m.EndS }).more(),
		number("power_w", "Power", func(m *bench.Machine) *float64 { return &m.PowerW }).more(),
		maybe("vat_max_ml", "Vat filled to its mark", func(m *bench.Machine) **float64 { return &m.VatMaxML }).more(),
		maybe("vat_dead_ml", "Left in the vat", func(m *bench.Machine) **float64 { return &m.VatDeadML }).more(),
		number("price_discount", "Discount", func(m *bench.Machine) *float64 { return &m.PriceDiscount }).more(),
		number("price_shipping", "Shipping", func(m *bench.Machine) *float64 { return &m.PriceShipping }).more(),
		number("price_tax_pct", "Tax", func(m *bench.Machine) *float64 { return &m.PriceTaxPct }).more(),
		sure("price_tax_included", "Tax is in the price", func(m *bench.Machine) *bool { return &m.PriceTaxIncluded }).more(),
		number("price_extras", "Extras to match the others", func(m *bench.Machine) *float64 { return &m.PriceExtras }).more(),
		maybe("film_price", "A film costs", func(m *bench.Machine) **float64 { return &m.FilmPrice }).more(),
		maybe("film_life_layers", "A film lasts", func(m *bench.Machine) **float64 { return &m.FilmLifeLayers }).more(),
		maybe("light_price", "A panel or light engine costs", func(m *bench.Machine) **float64 { return &m.LightPrice }).more(),
		maybe("light_life_h", "It lasts", func(m *bench.Machine) **float64 { return &m.LightLifeH }).more(),
		maybe("claimed_mm_h", "Speed claimed", func(m *bench.Machine) **float64 { return &m.ClaimedMMH }).more(),
		choice("cell_exposure", "Cells of a series", func(m *bench.Machine) *string { return &m.CellExposure }, "none", "together", "in_turn").more(),
		text("quirk_files", "How files are handed over", func(m *bench.Machine) *string { return &m.QuirkFiles }).more(),
		text("quirk_restart", "Between jobs", func(m *bench.Machine) *string { return &m.QuirkRestart }).more(),
		text("quirk_height", "True height limit", func(m *bench.Machine) *string { return &m.QuirkHeight }).more(),
		text("quirk_settings", "How far settings are locked", func(m *bench.Machine) *string { return &m.QuirkSettings }).more(),
		text("quirk_films", "Films and protections", func(m *bench.Machine) *string { return &m.QuirkFilms }).more(),
		text("notes", "Notes", func(m *bench.Machine) *string { return &m.Notes }).more(),
	},
	fresh:    func() bench.Machine { return bench.Machine{DialStepS: 0.1, CellExposure: bench.CellsAlike} },
	onRecord: func(_ *Tasks, t *store.Tx) ([]bench.Machine, error) { return t.Machines() },
	begin: func(w *Tasks, t *store.Tx, _ bool) (batch[bench.Machine], error) {
		known, err := t.Machines()
		return &machineRows{w, known}, err
	},
}

// machineRows are the machines on record and those of the rows before.
type machineRows struct {
	w     *Tasks
	known []bench.Machine
}

func (b *machineRows) look(m *bench.Machine, filled map[string]bool) (fate, says string, err error) {
	if i := slices.IndexFunc(b.known, func(k bench.Machine) bool { return strings.EqualFold(k.Name, m.Name) }); i >= 0 {
		return stands(machines.columns, filled, *m, b.known[i], b.known[i].Code)
	}
	if err := m.Check(); err != nil {
		return "", "", err
	}
	if beyond := bench.Beyond(*m); len(beyond) > 0 {
		return "", "", beyond[0]
	}
	card, err := kit.CardOfMachine(*m)
	if err != nil {
		return "", "", err
	}
	b.known = append(b.known, *m)
	says = fmt.Sprintf("plate %s × %s × %s mm", say.Figures(m.WidthMM, 5), say.Figures(m.DepthMM, 5), say.Figures(m.HeightMM, 5))
	if card.Pitch != nil {
		says += fmt.Sprintf(", pixels of %s × %s µm", say.Figure(card.Pitch.PitchXUM), say.Figure(card.Pitch.PitchYUM))
	} else {
		says += fmt.Sprintf(", a spot of %s µm", say.Figure(quantity.Or(m.SpotUM, 0)))
	}
	return Kept, says, nil
}

func (b *machineRows) keep(t *store.Tx, m bench.Machine) error {
	_, err := b.w.kit.SaveMachineIn(t, m)
	return err
}

// stands is the fate of a row whose name is on record: the same, or refused with what differs.
func stands[R any](columns []column[R], filled map[string]bool, given, on R, code string) (fate, says string, err error) {
	where := "on record as " + code
	if code == "" {
		where = "in a row before this one"
	}
	labels := differing(columns, filled, given, on)
	if len(labels) == 0 {
		return Same, where, nil
	}
	return "", "", fmt.Errorf("stands %s with another %s; change it on its page, or give this one a name of its own", where, say.List(labels))
}
