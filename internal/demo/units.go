package demo

import (
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/printing"
)

// units are what was unpacked of two machines: one bought, one of a first batch with something
// missing, whose vendor was asked.
func (d *scene) units() error {
	p := quantity.Ptr[float64]
	day := d.clock.Add(-40 * 24 * time.Hour)
	peeled := quantity.Ptr(day.Add(2 * time.Hour).UnixMilli())
	harrow := bench.UnitFile{Status: "retail", UnpackMin: p(35), SetUpBy: "someone who has set up a dozen", ReceivedOn: quantity.Ptr(day.Format(time.DateOnly)), Revision: "2", Serial: "HB-20417", Firmware: "1.8.2",
		BodyWidthMM: p(276), BodyDepthMM: p(284), BodyHeightMM: p(462), LidOpenMM: p(704), MassKG: p(8.9),
		Contents: bench.Contents{{What: "vat", Count: 1, Found: "there"}, {What: "spare film", Count: 2, Found: "there"}, {What: "scraper", Count: 1, Found: "there", Note: "plastic"},
			{What: "keys", Count: 3, Found: "there"}, {What: "memory stick", Count: 1, Found: "broken", Note: "not read by any computer here"}, {What: "manual", Count: 1, Found: "there"}},
		Peels:    bench.Peels{{What: "film on the panel", DoneMS: peeled}, {What: "film under the vat", DoneMS: peeled}, {What: "scratch guard over the panel", Keep: true, DoneMS: peeled}},
		Ports:    bench.Ports{{What: "USB", State: "used"}, {What: "network cable", State: "tested", Note: "files arrive whole"}, {What: "wireless network", State: "present", Note: "not tried"}},
		Openness: bench.Openness{{What: "all settings can be seen", Answer: "yes"}, {What: "all settings can be changed", Answer: "partly", Note: "the light's current cannot"}, {What: "any resin may be used", Answer: "yes"}, {What: "it needs an account", Answer: "no"}},
		Contacts: bench.Contacts{{About: "a memory stick that cannot be read", AskedMS: day.UnixMilli(), AnsweredMS: quantity.Ptr(day.Add(19 * time.Hour).UnixMilli()), Solved: "yes", How: "another one came by post"},
			{About: "what the second lift speed does", AskedMS: day.Add(72 * time.Hour).UnixMilli(), AnsweredMS: quantity.Ptr(day.Add(192 * time.Hour).UnixMilli()), Solved: "partly", How: "a link to the manual"}},
		Claimed: bench.Claims{{Says: "Light even to 90 %", Source: "on the box"}, {Says: "Film lasts 40,000 layers", Source: "the shop's page"}}}
	tern := bench.UnitFile{Status: "first_batch", ReceivedOn: quantity.Ptr(day.Format(time.DateOnly)), Firmware: "0.9",
		Contents: bench.Contents{{What: "vat", Count: 1, Found: "there"}, {What: "scraper", Count: 1, Found: "missing"}, {What: "gloves", Count: 2, Found: "there"}, {What: "manual", Count: 1, Found: "missing", Note: "a page to print"}},
		Peels:    bench.Peels{{What: "film on the panel", DoneMS: peeled}}, Ports: bench.Ports{{What: "USB", State: "used"}}}
	for _, u := range []struct {
		name string
		file bench.UnitFile
	}{{"Harrow 6", harrow}, {"Tern Mini", tern}} {
		if _, err := d.work.FirstDays.SaveUnit(d.ctx, d.machines[u.name].Machine.ID, u.file); err != nil {
			return err
		}
	}
	return nil
}

// levelled is a machine that was levelled now: four corners within a hair, seen on a first layer.
func (d *scene) levelled(machineID string) error {
	list, err := d.work.FirstDays.LevelMachine(d.ctx, machineID, bench.Levelling{How: "loosen the four screws, a card under the plate, press, tighten crosswise", BeforeMM: bench.Sizes{0.12, 0.05, -0.08, 0},
		AfterMM: bench.Sizes{0.02, 0, 0.01, 0.03}, ZeroMM: quantity.Ptr(-0.05), Ends: bench.LevelEnds})
	if err != nil {
		return err
	}
	_, err = d.work.FirstDays.SeeFirstLayer(d.ctx, machineID, list.Levellings[0].ID, "even", "twelve discs of one layer over the plate")
	return err
}

// clocked is how long the computer took with a piece: two versions of a program, and a crash that
// the second did not have.
func (d *scene) clocked(piece string) error {
	at := d.clock.Add(-30 * 24 * time.Hour)
	for i, s := range []struct {
		stage, version, ended, note string
		tookS                       float64
	}{
		{"import", "2.1", "done", "", 14}, {"orient", "2.1", "done", "", 95}, {"support", "2.1", "done", "", 210}, {"slice", "2.1", "crash", "the window closed at 60 %", 0}, {"slice", "2.1", "done", "", 88},
		{"export", "2.1", "done", "", 21}, {"transfer", "2.1", "done", "", 47}, {"import", "2.2", "done", "", 9}, {"support", "2.2", "done", "", 165}, {"slice", "2.2", "done", "", 52},
	} {
		step := bench.SoftwareStep{AtMS: at.Add(time.Duration(i) * 10 * time.Minute).UnixMilli(), Stage: s.stage, Software: "Carver", SoftwareVersion: s.version, Computer: "laptop, 16 GB", Person: "the reviewer, years of it", Ended: s.ended, Note: s.note}
		if s.tookS > 0 {
			step.TookS = &s.tookS
		}
		if _, err := d.work.FirstDays.ClockStep(d.ctx, d.pieces[piece].Piece.ID, step); err != nil {
			return err
		}
	}
	return nil
}

// room is what was read of the room after some prints: an evening that grew cooler, and once a
// heater that ran.
func (d *scene) room(sheet printing.RunSheet) (printing.RunSheet, error) {
	run := sheet.Run
	if d.season()%3 != 0 {
		return sheet, nil
	}
	end := bench.RoomReading{AtMS: *run.EndedMS, Moment: "end", RoomTempC: quantity.Ptr(round(*run.RoomTempC-0.8, 0.1)), HumidityPct: quantity.Ptr(46.0), HeaterOn: quantity.Ptr(false)}
	if d.season()%9 == 0 {
		end.RoomTempC, end.HumidityPct, end.HeaterOn, end.Note = quantity.Ptr(round(*run.RoomTempC-3.2, 0.1)), quantity.Ptr(58.0), quantity.Ptr(true), "the window stood open"
	}
	return d.work.Printing.ReadRoom(d.ctx, run.ID, end)
}
