package wear

import (
	"errors"
	"testing"

	"ojime/internal/core/quantity"
)

func p[V any](v V) *V { return &v }

// typical is a print of an hour, a quarter of it lit, in 500 layers.
func typical(unit string, life, used float64) LightInput {
	return LightInput{LightOnS: 900, TotalS: 3600, Layers: 500, Life: life, Unit: unit, Used: &used}
}

func TestOneRuleForEverythingThatWears(t *testing.T) {
	for _, c := range []struct {
		name         string
		in           LightInput
		use          float64
		prints       int64
		runH, lightH float64
		share        float64
		worn         bool
	}{
		{"a panel by hours of light", typical("light_h", 1000, 0), 0.25, 4000, 4000, 1000, 0, false},
		{"a panel half used", typical("light_h", 1000, 500), 0.25, 2000, 2000, 500, 0.5, false},
		{"a film by layers", typical("layers", 50000, 10000), 500, 80, 80, 20, 0.2, false},
		{"a machine by run hours", typical("run_h", 5000, 4999.5), 1, 0, 0.5, 0.125, 0.9999, false},
		{"at its end", typical("layers", 50000, 50000), 500, 0, 0, 0, 1, true},
		{"past its end", typical("layers", 50000, 60000), 500, 0, 0, 0, 1.2, true},
		{"one print short of its end", typical("layers", 50000, 49500), 500, 1, 1, 0.25, 0.99, false},
		{"a little under one print", typical("layers", 50000, 49501), 500, 0, 0.998, 0.2495, 0.99002, false},
	} {
		got, err := Light(c.in)
		if err != nil {
			t.Fatalf("%s: %v", c.name, err)
		}
		if !quantity.Equal(got.UsePerPrint, c.use) || got.PrintsLeft != c.prints || !quantity.Equal(got.RunHLeft, c.runH) || !quantity.Equal(got.LightHLeft, c.lightH) ||
			!quantity.Equal(got.UsedShare, c.share) || got.Has("worn_out") != c.worn || !quantity.Equal(got.LightDuty, 0.25) {
			t.Errorf("%s: %+v", c.name, got)
		}
		if got.YearsLeft != nil || got.CostPerPrint != nil {
			t.Errorf("%s: nothing asked for years or money: %+v", c.name, got)
		}
	}
}

// A claimed life in lit hours and one in run hours differ by the share that is lit: that
// is the argument that readers lose.
func TestLitHoursAndRunHoursAreNotOne(t *testing.T) {
	lit, err := Light(typical("light_h", 2000, 0))
	if err != nil {
		t.Fatal(err)
	}
	run, err := Light(typical("run_h", 2000, 0))
	if err != nil {
		t.Fatal(err)
	}
	if !quantity.Equal(lit.RunHLeft, 4*run.RunHLeft) || lit.PrintsLeft != 4*run.PrintsLeft {
		t.Errorf("lit: %+v, run: %+v", lit, run)
	}
}

func TestYearsAndMoneyAreToldWhereAsked(t *testing.T) {
	in := typical("light_h", 1000, 500)
	in.HoursPerWeek, in.Price = p(20.0), p(120.0)
	got, err := Light(in)
	if err != nil || !quantity.Equal(*got.YearsLeft, 2000/20.0/52.1775) || !quantity.Equal(*got.CostPerPrint, 120*0.25/1000) {
		t.Errorf("%+v (%v)", got, err)
	}
}

func TestWearThatCannotBe(t *testing.T) {
	for field, change := range map[string]func(*LightInput){
		"light_on_s": func(in *LightInput) { in.LightOnS = 3601 }, "total_s": func(in *LightInput) { in.TotalS, in.LightOnS = 0, 1 }, "layers": func(in *LightInput) { in.Layers = 0 },
		"life": func(in *LightInput) { in.Life = 0 }, "unit": func(in *LightInput) { in.Unit = "weeks" }, "used": func(in *LightInput) { in.Used = p(-1.0) },
		"hours_per_week": func(in *LightInput) { in.HoursPerWeek = p(0.0) }, "price": func(in *LightInput) { in.Price = p(-1.0) },
	} {
		in := typical("layers", 1000, 0)
		change(&in)
		_, err := Light(in)
		var wrong *quantity.FieldError
		if !errors.As(err, &wrong) || wrong.Path != field {
			t.Errorf("error %v, want one of field %s", err, field)
		}
	}
}
