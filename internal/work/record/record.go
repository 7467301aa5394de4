package record

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/store"
)

// RecordFormat names the layout of an exported record.
const RecordFormat = "ojime-record-2"

// Record is the whole record as one document. Meshes are by content hash.
type Record struct {
	Format      string               `json:"format"`
	Settings    bench.Settings       `json:"settings"`
	Machines    []bench.Machine      `json:"machines"`
	Events      []bench.MachineEvent `json:"events"`
	Resins      []bench.Resin        `json:"resins"`
	Bottles     []bench.Bottle       `json:"bottles"`
	Instruments []bench.Instrument   `json:"instruments"`
	// InstrumentChecks, GaugeStudies and GaugeReadings say how far instruments can be relied on.
	InstrumentChecks []bench.InstrumentCheck `json:"instrument_checks" required:"false"`
	GaugeStudies     []bench.GaugeStudy      `json:"gauge_studies" required:"false"`
	GaugeReadings    []bench.GaugeReading    `json:"gauge_readings" required:"false"`
	Pieces           []bench.Piece           `json:"pieces"`
	Features         []bench.Feature         `json:"features"`
	Reviews          []bench.Review          `json:"reviews"`
	Profiles         []bench.Profile         `json:"profiles"`
	Series           []bench.Series          `json:"series"`
	Cells            []bench.Cell            `json:"cells"`
	CellReadings     []bench.CellReading     `json:"cell_readings"`
	ReviewPlans      []bench.ReviewPlan      `json:"review_plans" required:"false"`
	Plates           []bench.Plate           `json:"plates" required:"false"`
	Placements       []bench.Placement       `json:"placements" required:"false"`
	Runs             []bench.Run             `json:"runs"`
	RunEvents        []bench.RunEvent        `json:"run_events" required:"false"`
	Preflights       []bench.Preflight       `json:"preflights" required:"false"`
	Remedies         []bench.Remedy          `json:"remedies" required:"false"`
	Baths            []bench.Bath            `json:"baths" required:"false"`
	Steps            []bench.ProcessStep     `json:"steps" required:"false"`
	Waste            []bench.Waste           `json:"waste" required:"false"`
	BottleEvents     []bench.BottleEvent     `json:"bottle_events" required:"false"`
	Reminders        []bench.Reminder        `json:"reminders" required:"false"`
	Specimens        []bench.Specimen        `json:"specimens"`
	Readings         []bench.Reading         `json:"readings"`
	Assemblies       []bench.Assembly        `json:"assemblies" required:"false"`
	References       []bench.Reference       `json:"references" required:"false"`
	// ReferenceReadings are what was read of references.
	ReferenceReadings []bench.ReferenceReading `json:"reference_readings" required:"false"`
	// Ratings are what was judged by eye and hand, in Sittings, on scales of which RatingScales
	// are the reviewer's own.
	RatingScales []bench.OwnScale `json:"rating_scales" required:"false"`
	Sittings     []bench.Sitting  `json:"sittings" required:"false"`
	Ratings      []bench.Rating   `json:"ratings" required:"false"`
	// Photographs are of specimens and references, PhotoMeasures what was measured on them.
	Photographs   []bench.Photograph   `json:"photographs" required:"false"`
	PhotoMeasures []bench.PhotoMeasure `json:"photo_measures" required:"false"`
	// Forms are what is measured of pieces beyond single sizes, FormReadings what was read.
	Forms        []bench.Form        `json:"forms" required:"false"`
	FormReadings []bench.FormReading `json:"form_readings" required:"false"`
	// PlateSurveys say what was found usable of plates.
	PlateSurveys []bench.PlateSurvey `json:"plate_surveys" required:"false"`
	// UnitFiles are the very units of machines.
	UnitFiles []bench.UnitFile `json:"unit_files" required:"false"`
	// Levellings are how machines were levelled.
	Levellings []bench.Levelling `json:"levellings" required:"false"`
	// Remarks are what annoys and pleases of machines.
	Remarks []bench.Remark `json:"remarks" required:"false"`
	// Panels are blind panels, PanelSeals what stands behind their codes: encrypted until they close.
	Panels     []bench.Panel     `json:"panels" required:"false"`
	PanelSeals []bench.PanelSeal `json:"panel_seals" required:"false"`
	// Findings are what reviews publish as found.
	Findings []bench.Finding `json:"findings" required:"false"`
	// Claims are what is claimed of machines and resins, Interests how what is reviewed came.
	Claims    []bench.LedgerClaim `json:"claims" required:"false"`
	Interests []bench.Interest    `json:"interests" required:"false"`
	// Readers are those whom reviews are for.
	Readers []bench.Reader `json:"readers" required:"false"`
	// Prices are what things were asked for, Equipment what makes machines alike, Budgets how owners are taken to use them.
	Prices    []bench.Price     `json:"prices" required:"false"`
	Equipment []bench.Equipment `json:"equipment" required:"false"`
	Budgets   []bench.Budget    `json:"budgets" required:"false"`
	// Publications are the versions of reviews that went out.
	Publications []bench.Publication `json:"publications" required:"false"`
	// FollowUps are what reviews left open.
	FollowUps []bench.FollowUp `json:"follow_ups" required:"false"`
	Ballots   []bench.Ballot   `json:"ballots" required:"false"`
	// Workrooms are the rooms that machines stand in, Checklists what is looked at on pieces of a kind.
	Workrooms  []bench.Workroom  `json:"workrooms" required:"false"`
	Checklists []bench.Checklist `json:"checklists" required:"false"`
	// UnitPhotographs are pictures of the very units of machines.
	UnitPhotographs []bench.UnitPhotograph `json:"unit_photographs" required:"false"`
	// RoomReadings are what the rooms of prints had.
	RoomReadings []bench.RoomReading `json:"room_readings" required:"false"`
	// SoftwareSteps are what was done with pieces on a computer.
	SoftwareSteps []bench.SoftwareStep `json:"software_steps" required:"false"`
	// SlicedFiles say what was read of sliced prints.
	SlicedFiles []bench.SlicedFile `json:"sliced_files" required:"false"`
	// LightGrids say how even the light of machines is.
	LightGrids []bench.LightGrid `json:"light_grids" required:"false"`
	// MachineRatings say what living with machines is like.
	MachineRatings []bench.MachineRating `json:"machine_ratings" required:"false"`
	// Stages are those that specimens came to, ResinWeighings volumes of resins on the balance.
	Stages         []bench.SpecimenStage `json:"specimen_stages" required:"false"`
	ResinWeighings []bench.ResinWeighing `json:"resin_weighings" required:"false"`
	// StressSeries are what specimens were put through, StressTests what they showed.
	StressSeries    []bench.StressSeries   `json:"stress_series" required:"false"`
	StressSpecimens []bench.StressSpecimen `json:"stress_specimens" required:"false"`
	StressTests     []bench.StressTest     `json:"stress_tests" required:"false"`
	Amendments      []bench.Amendment      `json:"amendments" required:"false"`
	// Devices come without their tokens: each gets a new one where it is wanted again.
	Devices  []bench.Device        `json:"devices" required:"false"`
	Sessions []bench.DeviceSession `json:"device_sessions" required:"false"`
	Feeds    []bench.RunFeed       `json:"run_feeds" required:"false"`
	Messages []bench.DeviceMessage `json:"device_messages" required:"false"`
	// MissingMeshes are those that pieces refer to and whose files were not there when
	// the record was exported.
	MissingMeshes []string          `json:"missing_meshes" required:"false"`
	Meshes        map[string][]byte `json:"meshes"`
	// Pictures are the copies of photographs, which carry no tags; the originals stay where
	// they are. MissingPictures are those whose files were not there.
	Pictures        map[string][]byte `json:"pictures" required:"false"`
	MissingPictures []string          `json:"missing_pictures" required:"false"`

	tallies []bench.Tally
}

// Imported counts what an import brought in.
type Imported struct {
	Machines int64 `json:"machines"`
	Pieces   int64 `json:"pieces"`
	Runs     int64 `json:"runs"`
	Readings int64 `json:"readings"`
	Reviews  int64 `json:"reviews"`
}

// complete fills in what records exported before it existed do not hold.
func (r *Record) complete() {
	position, run := int64(0), ""
	for i := range r.RunEvents {
		if e := &r.RunEvents[i]; e.RunID != run {
			position, run = 0, e.RunID
		}
		position++
		if r.RunEvents[i].Position == 0 {
			r.RunEvents[i].Position = position
		}
	}
	of := map[string][]bench.Specimen{}
	for i := range r.Specimens {
		s := &r.Specimens[i]
		s.Version = max(1, s.Version)
		s.Weigh()
		of[s.RunID] = append(of[s.RunID], *s)
	}
	for i := range r.Runs {
		run := &r.Runs[i]
		run.EndedHow = run.Ended()
		run.Wear()
		tallies := bench.TallyOf(of[run.ID])
		run.Shape = bench.CountsOf(tallies).Shape()
		r.tallies = append(r.tallies, tallies...)
	}
	for i := range r.References {
		r.References[i] = r.References[i].PlainSurface()
	}
	for i := range r.Instruments {
		if r.Instruments[i].Kind == "" {
			r.Instruments[i].Kind = "caliper"
		}
	}
	for i := range r.Resins {
		if r.Resins[i].Claims == nil {
			r.Resins[i].Claims = bench.Notes{}
		}
	}
	for i := range r.Machines {
		if r.Machines[i].CellExposure == "" {
			r.Machines[i].CellExposure = bench.CellsAlike
		}
	}
	if r.Settings.ViewingMM == 0 {
		version, known := r.Settings.Version, r.Settings
		r.Settings = bench.UsualSettings
		r.Settings.ID, r.Settings.Version = known.ID, version
		r.Settings.Currency, r.Settings.EnergyPerKWh, r.Settings.LabourPerH, r.Settings.WastePct = known.Currency, known.EnergyPerKWh, known.LabourPerH, known.WastePct
	}
}

func isEmpty(t *store.Tx) error {
	for _, table := range []string{"machine", "resin", "bottle", "piece", "review", "instrument", "run", "plate", "bath", "device", "assembly", "reference"} {
		next, err := t.NextNumber(table)
		if err != nil {
			return err
		}
		if next > 1 {
			return fmt.Errorf("the record already holds entries; start with an empty data folder to import: %w", bench.ErrConflict)
		}
	}
	return nil
}

// write inserts everything; references are checked when all is in, since
// series and profiles refer to each other.
func (r Record) write(t *store.Tx) error {
	if err := t.DeferReferences(); err != nil {
		return err
	}
	for _, step := range []func() error{
		func() error { return t.SaveSettings(r.Settings) },
		each(r.Machines, t.SaveMachine), each(r.Events, t.SaveMachineEvent), each(r.Resins, t.SaveResin), each(r.Bottles, t.SaveBottle),
		each(r.Instruments, t.SaveInstrument), each(r.InstrumentChecks, t.SaveInstrumentCheck), each(r.GaugeStudies, t.SaveGaugeStudy), each(r.GaugeReadings, t.SaveGaugeReading), each(r.Pieces, t.SavePiece), each(r.Features, t.SaveFeature), each(r.Reviews, t.SaveReview),
		each(r.Series, t.SaveSeries), each(r.Profiles, t.SaveProfile), each(r.Cells, t.SaveCell),
		each(r.CellReadings, t.SaveCellReading), each(r.ReviewPlans, t.SaveReviewPlan), each(r.Plates, t.SavePlate), each(r.Placements, t.SavePlacement), each(r.Runs, t.SaveRun),
		each(r.RunEvents, t.SaveRunEvent), each(r.Preflights, t.SavePreflight), each(r.Remedies, t.SaveRemedy),
		each(r.Baths, t.SaveBath), each(r.Steps, t.SaveStep), each(r.Waste, t.SaveWaste), each(r.BottleEvents, t.SaveBottleEvent), each(r.Reminders, t.SaveReminder),
		each(r.Specimens, t.SaveSpecimen), each(r.tallies, t.SaveTally), each(r.Readings, t.SaveReading),
		each(r.Assemblies, t.SaveAssembly), each(r.References, t.SaveReference), each(r.ReferenceReadings, t.SaveReferenceReading), each(r.RatingScales, t.SaveRatingScale), each(r.Sittings, t.SaveSitting), each(r.Ratings, t.SaveRating), each(r.Photographs, t.SavePhotograph), each(r.PhotoMeasures, t.SavePhotoMeasure),
		each(r.MachineRatings, t.SaveMachineRating), each(r.PlateSurveys, t.SavePlateSurvey), each(r.LightGrids, t.SaveLightGrid), each(r.SlicedFiles, t.SaveSlicedFile), each(r.UnitFiles, t.SaveUnitFile), each(r.Levellings, t.SaveLevelling), each(r.SoftwareSteps, t.SaveSoftwareStep), each(r.RoomReadings, t.SaveRoomReading), each(r.Remarks, t.SaveRemark), each(r.Workrooms, t.SaveWorkroom), each(r.Checklists, t.SaveChecklist), each(r.UnitPhotographs, t.SaveUnitPhotograph), each(r.Panels, t.SavePanel), each(r.PanelSeals, t.SavePanelSeal), each(r.Ballots, t.SaveBallot), each(r.Findings, t.SaveFinding), each(r.Claims, t.SaveClaim), each(r.Interests, t.SaveInterest), each(r.Readers, t.SaveReader), each(r.Prices, t.SavePrice), each(r.Equipment, t.SaveEquipment), each(r.Budgets, t.SaveBudget), each(r.Publications, t.SavePublication), each(r.FollowUps, t.SaveFollowUp), each(r.Forms, t.SaveForm), each(r.FormReadings, t.SaveFormReading), each(r.Stages, t.SaveSpecimenStage), each(r.ResinWeighings, t.SaveResinWeighing), each(r.StressSeries, t.SaveStressSeries), each(r.StressSpecimens, t.SaveStressSpecimen), each(r.StressTests, t.SaveStressTest), each(r.Amendments, t.SaveAmendment),
		each(r.Devices, t.SaveDevice), each(r.Sessions, t.SaveDeviceSession), each(r.Feeds, t.SaveRunFeed),
		each(r.Messages, func(m bench.DeviceMessage) error { _, err := t.SaveDeviceMessage(m); return err }),
	} {
		if err := step(); err != nil {
			return err
		}
	}
	return nil
}

func each[E any](list []E, put func(E) error) func() error {
	return func() error {
		for _, e := range list {
			if err := put(e); err != nil {
				return err
			}
		}
		return nil
	}
}
