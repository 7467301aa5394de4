package audit

// What the values of a factor have to be.
const (
	words      = iota // any word, number or true|false
	above             // numbers above 0
	notBelow          // numbers from 0
	number            // numbers
	wholeAbove        // whole numbers from 1
	truth             // true or false
)

// rule says how one factor is weighed. Differences above minorOver (or any, where
// anyMinor) are minor, above majorOver (or any) major; zero thresholds do not apply. flag
// is the condition that is major when set on one side only.
type rule struct {
	factor    string
	label     string
	unit      string
	values    func(Conditions) Values
	kind      int
	oneOf     []string
	questions []string
	anyMinor  bool
	anyMajor  bool
	minorOver float64
	majorOver float64
	ratioOver float64
	flag      func(Conditions) Values
	flagLabel string
	effect    string
	// whereTold leaves the factor out where neither side tells it: what few benches note must not
	// stand in everyone's way.
	whereTold bool
}

var (
	exceptCost     = []string{Detail, Dimension, Time, Failure, Finish}
	inThePart      = []string{Detail, Dimension, Failure}
	onTheSurface   = []string{Detail, Dimension, Failure, Finish}
	printedAndSeen = []string{Detail, Time, Failure, Finish}
)

// Names of factors with rules of their own.
const (
	layerUM       = "layer_um"
	exposureBasis = "exposure_basis"
	machine       = "machine"
	exposureS     = "exposure_s"
	bottomDoseS   = "bottom_dose_s"
	dose          = "dose_mj_cm2"
	motion        = "motion"
	panel         = "panel"
	printedMS     = "printed_ms"
	copies        = "copies"
	prints        = "prints"
)

// rules is the table of factors in its order; a nil list of questions means
// all. Source: the audit table of the computation.
var rules = []rule{
	{factor: layerUM, label: "Layer height", unit: " µm", values: func(c Conditions) Values { return c.LayerUM }, kind: above,
		anyMajor: true, questions: exceptCost, effect: "it sets steps, layer count and peel, so it may explain all of the difference"},
	{factor: "scale_pct", label: "Scale", unit: " %", values: func(c Conditions) Values { return c.ScalePct }, kind: above,
		anyMajor: true, effect: "features, areas and volumes are not the same size, so these are different tests"},
	{factor: "piece", label: "Piece", values: func(c Conditions) Values { return c.Piece },
		anyMajor: true, effect: "these are different tests"},
	{factor: "piece_revision", label: "Piece revision", values: func(c Conditions) Values { return c.PieceRevision },
		anyMajor: true, effect: "the mesh may have changed where it is read"},
	{factor: "resin", label: "Resin", values: func(c Conditions) Values { return c.Resin },
		anyMajor: true, effect: "resin and machine cannot be told apart"},
	{factor: "bottle_age_days", label: "Days since the bottle was opened", values: func(c Conditions) Values { return c.BottleAgeDays }, kind: notBelow,
		minorOver: 90, flag: func(c Conditions) Values { return c.BottleExpired }, flagLabel: "past its expiry date",
		questions: []string{Detail, Failure, Finish}, effect: "old resin settles and needs more light, so thin parts may fail"},
	{factor: exposureBasis, label: "Exposure basis", values: func(c Conditions) Values { return c.ExposureBasis },
		oneOf: []string{"default", "calibrated", "borrowed", "sealed", "own", "adjusted", "series"}, anyMinor: true, questions: inThePart, effect: "one side may be nearer its best setting than the other"},
	{factor: "film_layers", label: "Layers on the film", values: func(c Conditions) Values { return c.FilmLayers }, kind: notBelow,
		minorOver: 20000, flag: func(c Conditions) Values { return c.FilmClouded }, flagLabel: "clouded",
		questions: inThePart, effect: "a worn film scatters light and peels harder"},
	{factor: "days_since_level", label: "Days since levelling", values: func(c Conditions) Values { return c.DaysSinceLevel }, kind: notBelow,
		minorOver: 30, flag: func(c Conditions) Values { return c.MovedSinceLevel }, flagLabel: "moved since levelling",
		questions: []string{Dimension, Failure}, effect: "a tilted plate changes the first layers, Z sizes and adhesion"},
	{factor: "resin_temp_c", label: "Resin temperature", unit: " °C", values: func(c Conditions) Values { return c.ResinTempC }, kind: number,
		minorOver: 3, majorOver: 6, questions: exceptCost, effect: "warm resin flows and cures more, so exposure acts stronger"},
	{factor: "orientation", label: "Orientation", values: func(c Conditions) Values { return c.Orientation },
		anyMinor: true, questions: printedAndSeen, effect: "steps fall elsewhere and the height may differ"},
	{factor: "supports", label: "Supports", values: func(c Conditions) Values { return c.Supports },
		anyMinor: true, questions: printedAndSeen, effect: "hold, scars and resin differ"},
	{factor: "antialiasing", label: "Anti-aliasing", values: func(c Conditions) Values { return c.Antialiasing },
		anyMinor: true, questions: []string{Detail, Finish}, effect: "it softens edges and thin parts"},
	{factor: "wash_s", label: "Wash", unit: " s", values: func(c Conditions) Values { return c.WashS }, kind: notBelow,
		ratioOver: 1.5, questions: []string{Dimension, Finish}, effect: "solvent swells, residue thickens"},
	{factor: "cure_s", label: "Cure", unit: " s", values: func(c Conditions) Values { return c.CureS }, kind: notBelow,
		ratioOver: 1.5, questions: []string{Dimension, Finish}, effect: "curing shrinks and hardens"},
	{factor: "surface", label: "Surface", values: func(c Conditions) Values { return c.Surface }, oneOf: []string{"raw", "primed", "painted"},
		anyMajor: true, questions: []string{Detail, Finish}, effect: "raw plastic looks worse than the same part primed"},
	{factor: "software", label: "Software", values: func(c Conditions) Values { return c.Software },
		anyMinor: true, questions: []string{Time, Failure}, effect: "slicing and its defaults differ"},
	{factor: machine, label: "Machine", values: func(c Conditions) Values { return c.Machine },
		anyMajor: true, effect: "two machines differ in light, motion and plate at once"},
	{factor: exposureS, label: "Exposure", unit: " s", values: func(c Conditions) Values { return c.ExposureS }, kind: above,
		ratioOver: 1.02, questions: inThePart, effect: "more light thickens parts and holds them better"},
	{factor: bottomDoseS, label: "Bottom dose", unit: " s", values: func(c Conditions) Values { return c.BottomDoseS }, kind: notBelow,
		ratioOver: 1.25, questions: []string{Dimension, Failure}, effect: "it squashes the foot and decides what holds on the plate"},
	{factor: "light_power_pct", label: "Light power", unit: " %", values: func(c Conditions) Values { return c.LightPowerPct }, kind: above,
		anyMinor: true, questions: inThePart, effect: "the same seconds are another dose"},
	{factor: dose, label: "Dose", unit: " mJ/cm²", values: func(c Conditions) Values { return c.DoseMJCM2 }, kind: above,
		ratioOver: 1.05, questions: inThePart, effect: "more light thickens parts and holds them better"},
	{factor: motion, label: "Motion", values: func(c Conditions) Values { return c.Motion },
		anyMinor: true, questions: []string{Time, Failure, Finish}, effect: "lifting decides time and how hard a layer peels"},
	{factor: "film_type", label: "Film", values: func(c Conditions) Values { return c.FilmType },
		anyMinor: true, questions: onTheSurface, effect: "films let through and let go differently"},
	{factor: "plate_surface", label: "Plate surface", values: func(c Conditions) Values { return c.PlateSurface },
		anyMinor: true, questions: onTheSurface, effect: "it holds the first layers and marks them"},
	{factor: "accessories", label: "Accessories", values: func(c Conditions) Values { return c.Accessories },
		anyMinor: true, questions: onTheSurface, effect: "what was put on the machine is compared with it"},
	{factor: panel, label: "Panel or light engine", values: func(c Conditions) Values { return c.Panel },
		anyMinor: true, questions: inThePart, effect: "another panel gives another light"},
	{factor: "firmware", label: "Firmware", values: func(c Conditions) Values { return c.Firmware },
		anyMinor: true, questions: exceptCost, effect: "it may move, light and wait otherwise"},
	{factor: "lot", label: "Lot of the resin", values: func(c Conditions) Values { return c.Lot },
		anyMinor: true, questions: onTheSurface, effect: "lots of one resin differ"},
	{factor: "room_temp_c", label: "Room temperature", unit: " °C", values: func(c Conditions) Values { return c.RoomTempC }, kind: number,
		minorOver: 5, majorOver: 10, questions: inThePart, effect: "resin and machine take on the warmth of their room"},
	{factor: "room_outside", whereTold: true, label: "Outside the temperatures stated for the resin", values: func(c Conditions) Values { return c.RoomOutside }, kind: truth,
		anyMinor: true, questions: exceptCost, effect: "one resin was printed as its maker states it, the other was not"},
	{factor: "room_drifted", whereTold: true, label: "Drift of the room while printing", values: func(c Conditions) Values { return c.RoomDrifted }, kind: truth,
		anyMinor: true, questions: inThePart, effect: "the first layers and the last are printed in another room"},
	{factor: "humidity_pct", whereTold: true, label: "Humidity", unit: " %", values: func(c Conditions) Values { return c.HumidityPct }, kind: notBelow,
		minorOver: 20, questions: []string{Failure, Finish}, effect: "moist air clouds some resins and slows drying"},
	{factor: "heater_on", whereTold: true, label: "Heater", values: func(c Conditions) Values { return c.HeaterOn }, kind: truth,
		anyMinor: true, questions: exceptCost, effect: "a warmed vat flows and cures more than its room tells"},
	{factor: "room", whereTold: true, label: "Room", values: func(c Conditions) Values { return c.Room },
		anyMinor: true, questions: inThePart, effect: "rooms differ in warmth, draught and footing"},
	{factor: "place", label: "Place on the plate", values: func(c Conditions) Values { return c.Place },
		anyMinor: true, questions: inThePart, effect: "light and level are not the same everywhere"},
	{factor: "light_pct", whereTold: true, label: "Light where the copies lay", unit: " % of the plate's mean", values: func(c Conditions) Values { return c.LightPct }, kind: number,
		minorOver: 5, majorOver: 15, questions: inThePart, effect: "where the light is weaker the settings give less of it than they say"},
	{factor: "paused", label: "Paused or topped up while printing", values: func(c Conditions) Values { return c.Paused }, kind: truth,
		anyMinor: true, questions: []string{Detail, Failure, Finish}, effect: "a pause leaves a line, fresh resin another colour"},
	{factor: "instrument", label: "Instrument", values: func(c Conditions) Values { return c.Instrument },
		anyMinor: true, questions: []string{Dimension}, effect: "part of the difference may be the instruments'"},
	{factor: "surface_light", label: "Light it was judged in", values: func(c Conditions) Values { return c.SurfaceLight },
		anyMinor: true, questions: []string{Detail, Finish}, effect: "raking light shows what soft light hides"},
	{factor: "station", label: "How it was judged", values: func(c Conditions) Values { return c.Station },
		anyMinor: true, questions: []string{Detail, Finish}, effect: "a loupe sees what a table does not"},
	{factor: printedMS, label: "When it was printed", values: func(c Conditions) Values { return c.PrintedMS }, kind: number,
		minorOver: 30 * dayMS, questions: exceptCost, effect: "what nobody wrote down may have changed meanwhile"},
	{factor: copies, label: "Copies on the plate", values: func(c Conditions) Values { return c.Copies }, kind: wholeAbove,
		anyMinor: true, questions: []string{Time, Cost}, effect: "a full plate and a single piece are different contests"},
	{factor: prints, label: "Prints", values: func(c Conditions) Values {
		if c.Prints == nil {
			return nil
		}
		return One(float64(*c.Prints))
	}},
}

const dayMS = 24 * 60 * 60 * 1000

// companions come with a factor under test, unless they are named themselves.
var companions = map[string][]string{
	machine: {panel, "firmware", motion, "film_type", "plate_surface", "accessories"},
	"resin": {"lot"},
}

// Factors lists the factors in the order of the table.
func Factors() []string {
	out := make([]string, len(rules))
	for i, r := range rules {
		out[i] = r.factor
	}
	return out
}

// Label is what a factor is called.
func Label(factor string) string {
	for _, r := range rules {
		if r.factor == factor {
			return r.label
		}
	}
	return factor
}
