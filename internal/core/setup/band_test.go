package setup

import (
	"testing"

	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
)

func TestBandsOfTemperature(t *testing.T) {
	c := quantity.Ptr[float64]
	for _, of := range []struct {
		resin, room *float64
		want        string
	}{{nil, nil, ""}, {c(19.9), nil, Cold}, {c(20), nil, ""}, {c(28), nil, ""}, {c(28.1), nil, Hot}, {nil, c(16), Cold}, {c(24), c(16), ""}, {nil, c(22), ""}} {
		if got := Band(TempC(of.resin, of.room), machine.Window{}); got != of.want {
			t.Errorf("resin %v, room %v: %q, want %q", of.resin, of.room, got, of.want)
		}
	}
	// What its maker states for a resin comes before what is usual.
	warm := machine.Window{FromC: c(25), ToC: c(35)}
	for _, of := range []struct {
		temp float64
		want string
	}{{24, Cold}, {25, ""}, {30, ""}, {36, Hot}} {
		if got := Band(&of.temp, warm); got != of.want {
			t.Errorf("%v °C for a resin of 25 to 35 °C: %q, want %q", of.temp, got, of.want)
		}
	}
}
