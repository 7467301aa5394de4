package bench

import (
	"fmt"
	"time"

	"ojime/internal/core/optics"
	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Plausible ranges. A value outside them is nearly always a slip of unit, so
// it is refused with the unit named rather than computed with.
const (
	finestPitchUM, coarsestPitchUM = 4, 400
	thinnestLayerUM                = 4
	thickestLayerUM                = 400
	longestExposureS               = 600
	coldestC, hottestC             = -20, 80
)

// Check says what makes no sense about a machine, naming the field.
func (m Machine) Check() error {
	var c quantity.Checks
	for _, f := range []struct {
		name  string
		value float64
	}{{"width_mm", m.WidthMM}, {"depth_mm", m.DepthMM}, {"height_mm", m.HeightMM}, {"dial_step_s", m.DialStepS}} {
		c.Above(f.name, f.value)
	}
	if m.LightEngine == Laser {
		needed(&c, "spot_um", m.SpotUM)
		needed(&c, "hatch_mm", m.HatchMM)
		needed(&c, "hatch_mm_s", m.HatchMMS)
		needed(&c, "contour_mm_s", m.ContourMMS)
		needed(&c, "settle_s", m.SettleS)
		if m.ContourPasses == nil {
			c.Fail("contour_passes", "is missing; a laser needs it to tell its time (0 if it draws no outline)")
		}
		return c.Err()
	}
	c.CountAbove("px_x", quantity.Or(m.PxX, 0))
	c.CountAbove("px_y", quantity.Or(m.PxY, 0))
	if c.Err() == nil {
		pitch, err := optics.Pitch(optics.PitchInput{Panel: optics.Panel{WidthMM: m.WidthMM, DepthMM: m.DepthMM, PxX: *m.PxX, PxY: *m.PxY}})
		if err == nil && (pitch.PitchUM < finestPitchUM || pitch.PitchUM > coarsestPitchUM) {
			c.Fail("width_mm", "gives a pitch of %s µm, which no panel has; check millimetres and pixel counts", say.Figures(pitch.PitchUM, 4))
		}
	}
	if m.ReleaseS == nil && len(m.Lift) == 0 {
		c.Fail("lift", "is missing; give lift and retract, or the fixed release time of a tilting vat")
	}
	if m.ReleaseS == nil && len(m.Retract) == 0 {
		c.Fail("retract", "is missing; give lift and retract, or the fixed release time of a tilting vat")
	}
	return c.Err()
}

// Laser is the light engine that traces instead of flashing.
const Laser = "laser"

// CellsAlike is a machine that exposes a whole plate alike.
const CellsAlike = "none"

// CellsInTurn is a machine that exposes the cells of a plate one after the other.
const CellsInTurn = "in_turn"

// Process is masked for panels and projectors, laser for spots.
func (m Machine) Process() string {
	if m.LightEngine == Laser {
		return Laser
	}
	return "masked"
}

func needed(c *quantity.Checks, field string, v *float64) {
	if v == nil {
		c.Fail(field, "is missing; a laser needs it to tell its time")
	}
}

// Check says what makes no sense about a resin.
func (r Resin) Check() error {
	var c quantity.Checks
	if r.BottleML == nil && r.BottleG == nil {
		c.Fail("bottle_ml", "is missing; say what a bottle holds, in millilitres or in grams")
	}
	if r.BottleML == nil && r.DensityGML == nil {
		c.Fail("density_g_ml", "is missing; a bottle sold by mass needs it to become litres")
	}
	if r.DensityGML != nil && (*r.DensityGML < 0.5 || *r.DensityGML > 3) {
		c.Fail("density_g_ml", "is %s g/ml; resins lie near 1.1, check the unit", say.Figures(*r.DensityGML, 6))
	}
	checkTemperature(&c, "prints_from_c", r.PrintsFromC)
	checkTemperature(&c, "prints_to_c", r.PrintsToC)
	if from, to := r.Window().Ends(); r.Window().Stated() && from >= to {
		c.Fail("prints_to_c", "is %s °C, not above the %s °C from which it prints", say.Figures(to, 6), say.Figures(from, 6))
	}
	return c.Err()
}

// Check says what makes no sense about a bottle.
func (b Bottle) Check() error {
	var c quantity.Checks
	checkDay(&c, "opened_on", b.OpenedOn)
	checkDay(&c, "expires_on", b.ExpiresOn)
	return c.Err()
}

// sameMomentMS is within how much two instants are those of one event: people write minutes.
const sameMomentMS = 60_000

// SameMoment reports two instants (ms) that lie less than a minute apart: two starts on one machine
// that do are of one print.
func SameMoment(aMS, bMS int64) bool { return max(aMS-bMS, bMS-aMS) < sameMomentMS }

// aheadMS is how far an instant may lie ahead of our clock: zones and clocks differ
// by less than a day.
const aheadMS = 24 * 60 * 60 * 1000

// HasBeen refuses an instant of what has happened that lies in the future.
func HasBeen(field string, atMS, nowMS int64) error {
	if atMS > nowMS+aheadMS {
		return quantity.Errorf(field, "lies in the future; check day and time")
	}
	return nil
}

func checkDay(c *quantity.Checks, field string, day *string) {
	if day == nil {
		return
	}
	if _, err := time.Parse(time.DateOnly, *day); err != nil {
		c.Fail(field, "is %q; write a day as YYYY-MM-DD", *day)
	}
}

// Check says what makes no sense about a feature.
func (f Feature) Check(at string) error {
	var c quantity.Checks
	if f.Name == "" {
		c.Fail(at+"name", "is missing; name the feature as it is called at the bench")
	}
	switch f.Kind {
	case "dimension":
		if f.NominalMM == nil {
			c.Fail(at+"nominal_mm", "is missing; a dimension needs its nominal size")
		}
		if f.Axis == nil {
			c.Fail(at+"axis", "is missing; say x, y or z")
		}
		if f.Face == nil {
			c.Fail(at+"face", "is missing; say outer or inner")
		}
	case "pins", "gaps":
		if len(f.RungsMM) < 2 {
			c.Fail(at+"rungs_mm", "has %d sizes; a ladder needs at least 2", len(f.RungsMM))
		}
		for _, r := range f.RungsMM {
			c.Above(at+"rungs_mm", r)
		}
	}
	return c.Err()
}

// CheckExposure refuses layer heights and exposures that can only be a slip of
// unit.
func CheckExposure(layerUM float64, exposureS *float64) error {
	var c quantity.Checks
	if layerUM < thinnestLayerUM || layerUM > thickestLayerUM {
		c.Fail("layer_um", "is %s µm; layers lie between %d and %d µm, check the unit", say.Figures(layerUM, 6), thinnestLayerUM, thickestLayerUM)
	}
	if exposureS != nil && (*exposureS <= 0 || *exposureS > longestExposureS) {
		c.Fail("exposure_s", "is %s s; exposures lie above 0 and up to %d s, check the unit", say.Figures(*exposureS, 6), longestExposureS)
	}
	return c.Err()
}

// Check says what makes no sense about a profile.
func (p Profile) Check() error {
	if err := CheckExposure(p.LayerUM, p.ExposureS); err != nil {
		return err
	}
	var c quantity.Checks
	if p.Basis == "sealed" {
		if p.SealedName == "" {
			c.Fail("sealed_name", "is missing; name the sealed profile as the machine shows it")
		}
		return c.Err()
	}
	if p.Basis == BasisSeries {
		return c.Err()
	}
	if p.ExposureS == nil {
		c.Fail("exposure_s", "is missing; only a sealed profile may hide it")
	}
	if p.BottomExposureS == nil {
		c.Fail("bottom_exposure_s", "is missing; only a sealed profile may hide it")
	}
	if p.Basis == "adjusted" && p.ParentID == nil {
		c.Fail("parent_id", "is missing; say which settings these were adjusted from")
	}
	return c.Err()
}

// BasisSeries are the settings of a series plate: its cells have the exposures.
const BasisSeries = "series"

// Check says what makes no sense about a plate.
func (p Plate) Check() error {
	var c quantity.Checks
	if p.ProfileID == nil && p.SeriesID == nil {
		c.Fail("profile_id", "is missing; choose the settings that the plate is printed with")
	}
	c.NotBelow("margin_mm", p.MarginMM)
	c.NotBelow("spacing_mm", p.SpacingMM)
	c.NotBelow("drip_ml", p.DripML)
	c.Above("liquid_ratio", p.LiquidRatio)
	c.NotBelowIf("vat_fill_ml", p.VatFillML)
	c.AboveIf("software_estimate_s", p.SoftwareEstimateS)
	return c.Err()
}

// Check says what makes no sense about the reviewer's own figures.
func (s Settings) Check() error {
	var c quantity.Checks
	c.Above("viewing_mm", s.ViewingMM)
	c.Above("run_h_per_week", s.RunHPerWeek)
	c.NotBelowIf("usual_wash_s", s.UsualWashS)
	c.NotBelowIf("usual_cure_s", s.UsualCureS)
	if s.AttendedToH <= s.AttendedFromH {
		c.Fail("attended_to_h", "is %s, not after %s; the day ends after it begins", say.Figures(s.AttendedToH, 6), say.Figures(s.AttendedFromH, 6))
	}
	return c.Err()
}

// Check says what makes no sense about a run by itself.
func (r Run) Check() error {
	var c quantity.Checks
	if r.StartedMS <= 0 {
		c.Fail("started_ms", "is missing; say when the print started")
	}
	if r.EndedMS != nil && *r.EndedMS <= r.StartedMS {
		c.Fail("ended_ms", "lies before the start; check day and time")
	}
	checkTemperature(&c, "room_temp_c", r.RoomTempC)
	checkTemperature(&c, "resin_temp_c", r.ResinTempC)
	checkHumidity(&c, r.HumidityPct)
	return c.Err()
}

// Check says what makes no sense about a specimen's outcome.
func (s Specimen) Check() error {
	var c quantity.Checks
	if (s.Outcome == outcome.MicroDefect || s.Outcome == outcome.Lost) && len(s.Counting()) == 0 {
		c.Fail("defects", "are missing; say what was wrong with %s", s.Code)
	}
	for i, d := range s.Defects {
		if d.Symptom == "" {
			c.Fail(fmt.Sprintf("defects[%d].symptom", i), "is missing; say what was wrong with %s", s.Code)
		}
	}
	return c.Err()
}

// Symptoms is our own list of what can be wrong with a specimen.
var Symptoms = []string{
	"no adhesion", "let go midway", "delamination", "layer shift", "support torn", "thin part missing", "void",
	"suction blow-out", "ran dry", "elephant foot", "warp", "bloated", "soft", "pull lines", "visible layer line", "surface haze",
	"specks", "repeating mark", "support scar", "stuck to film", "stuck too well to the plate", "broken in handling", "machine fault", "operator",
}

// Judged reports whether the outcome is known.
func (s Specimen) Judged() bool { return s.Outcome != outcome.Pending }
