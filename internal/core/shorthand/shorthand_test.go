package shorthand

import (
	"errors"
	"reflect"
	"strings"
	"testing"
)

var names = Names{
	Machines: []Name{{"m1", "M1", "Harrow 6"}, {"m2", "M2", "Tern Mini"}, {"m3", "M3", "Tern Large"}},
	Bottles:  []Name{{"b3", "B3", "Fable Grey"}, {"b13", "B13", "Fable Grey"}},
	Runs:     []Name{{"r41", "R-041", ""}, {"r4", "R-004", ""}},
	Plates:   []Name{{"t12", "T-12", ""}},
}

func took(s float64) *float64 { return &s }

func TestLinesMeanWhatTheySay(t *testing.T) {
	for text, want := range map[string]Line{
		"top up 60 on Harrow":                    {Does: TopUp, MachineID: "m1", ML: 60},
		"Top up 60,5ml in the harrow 6":          {Does: TopUp, MachineID: "m1", ML: 60.5},
		"topup 60 ml R-041":                      {Does: TopUp, RunID: "r41", ML: 60},
		"weigh B3 412 g":                         {Does: Weigh, BottleID: "b3", Grams: 412},
		"b13 412.5":                              {Does: Weigh, BottleID: "b13", Grams: 412.5},
		"R-041 done 2h05 all whole but 3 and 7":  {Does: End, RunID: "r41", Ended: "finished", TookS: took(7500), Whole: true, But: []int64{3, 7}},
		"r41 done":                               {Does: End, RunID: "r41", Ended: "finished"},
		"r-041 stopped 0:40":                     {Does: End, RunID: "r41", Ended: "stopped", TookS: took(2400)},
		"r4 finished 125 min all whole":          {Does: End, RunID: "r4", Ended: "finished", TookS: took(7500), Whole: true},
		"r4 done 125min whole but 8, 2-4,3":      {Does: End, RunID: "r4", Ended: "finished", TookS: took(7500), Whole: true, But: []int64{2, 3, 4, 8}},
		"R-004 all whole except 1":               {Does: End, RunID: "r4", Whole: true, But: []int64{1}},
		"r4 done 3h":                             {Does: End, RunID: "r4", Ended: "finished", TookS: took(10800)},
		"T-12 done 2h05 all whole but 2":         {Does: End, PlateID: "t12", Ended: "finished", TookS: took(7500), Whole: true, But: []int64{2}},
		"t12 stopped 40 min":                     {Does: End, PlateID: "t12", Ended: "stopped", TookS: took(2400)},
		"room 22,5 on Harrow":                    {Does: Room, MachineID: "m1", RoomC: took(22.5)},
		"room 22.5 °C 48 % R-041":                {Does: Room, RunID: "r41", RoomC: took(22.5), HumidityPct: took(48)},
		"r41 room 19c 61%":                       {Does: Room, RunID: "r41", RoomC: took(19), HumidityPct: took(61)},
		"relevel tern mini closer":               {Does: Knot, MachineID: "m2", Knot: "relevel", Note: "closer"},
		"relevelled M2: closer by a card":        {Does: Knot, MachineID: "m2", Knot: "relevel", Note: "closer by a card"},
		"new film on Harrow":                     {Does: Knot, MachineID: "m1", Knot: "film"},
		"clean vat of M3":                        {Does: Knot, MachineID: "m3", Knot: "vat_clean"},
		"moved harrow 6 to the shelf":            {Does: Knot, MachineID: "m1", Knot: "move", Note: "to the shelf"},
		"note harrow smells of rain":             {Does: Note, MachineID: "m1", Note: "smells of rain"},
		"note r41: a thread hangs at the corner": {Does: Note, RunID: "r41", Note: "a thread hangs at the corner"},
	} {
		got, err := Read(text, names)
		if err != nil || !reflect.DeepEqual(got, want) {
			t.Errorf("%q: %+v, %v; want %+v", text, got, err, want)
		}
	}
}

func TestWhatIsNotClearIsRefusedAndNotGuessed(t *testing.T) {
	for text, why := range map[string]string{
		"top up Harrow":                    `"Harrow" where it should say how many ml`,
		"top up":                           "lacks how many ml",
		"top up 60":                        "names no machine",
		"top up 60 on Tern":                "could mean M2 Tern Mini or M3 Tern Large",
		"top up 60 on Kestrel":             `no machine that is known: "Kestrel"`,
		"top up 60 on Harrow 6 twice":      `goes on with "twice"`,
		"top up -3 on Harrow":              `"-3" where`,
		"top up NaN on Harrow":             `"NaN" where`,
		"weigh Fable Grey 412":             "could mean B3 Fable Grey or B13 Fable Grey",
		"weigh B3":                         "lacks how many g",
		"weigh B3 412 g today":             `goes on with "today"`,
		"room on Harrow":                   "lacks how warm the room is",
		"room 22 148 on Harrow":            "the humidity in %",
		"room 22 48":                       "names no machine",
		"r41 room 22 48 warm":              `goes on with "warm"`,
		"T-12 done":                        "does not say how long T-12 printed",
		"T-12 all whole":                   "does not say how long T-12 printed",
		"R-041":                            "does not say what became of R-041",
		"R-041 done soon":                  `"soon" where it should say "all whole"`,
		"R-041 done 2h75":                  "how long it took",
		"R-041 done 0:00":                  "how long it took",
		"R-041 done 2":                     "how long it took",
		"R-041 done 2h all whole but":      "which copies",
		"R-041 done 2h all whole but wing": `"wing" where it should number a copy`,
		"R-041 all whole but 7-3":          "number a copy",
		"R-041 all whole today":            `goes on with "today"`,
		"R-041 2h05 all whole":             `"all whole"`,
		"relevel":                          "names no machine",
		"note Harrow":                      "lacks what is noted",
	} {
		got, err := Read(text, names)
		if err == nil || !strings.Contains(err.Error(), why) {
			t.Errorf("%q: %+v, %v; want %q", text, got, err, why)
		}
	}
	for _, text := range []string{"", "  ", "print it again", "r99 done", strings.Repeat("x ", Most)} {
		if got, err := Read(text, names); err == nil || got.Does != "" || len(text) <= Most && !errors.Is(err, ErrNothing) {
			t.Errorf("%q: %+v, %v", text, got, err)
		}
	}
}

// FuzzRead holds that no line, whatever it is, brings the reader down or means what it cannot.
func FuzzRead(f *testing.F) {
	for _, text := range []string{"top up 60 on Harrow", "weigh B3 412 g", "R-041 done 2h05 all whole but 3 and 7", "relevel Tern Mini closer", "note r41: x", "h", "R-041 done :5", "R-041 done 9min"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		got, err := Read(text, names)
		switch {
		case err != nil:
		case got.Does == TopUp && !(got.ML > 0), got.Does == Weigh && !(got.Grams > 0), got.TookS != nil && !(*got.TookS > 0),
			got.Does == End && got.Ended == "" && !got.Whole, got.Does == "":
			t.Errorf("%q: %+v", text, got)
		}
	})
}
