package setup

import (
	"testing"

	"ojime/internal/core/quantity"
)

func TestBandsOfTemperature(t *testing.T) {
	c := quantity.Ptr[float64]
	for _, of := range []struct {
		resin, room *float64
		want        string
	}{{nil, nil, ""}, {c(19.9), nil, Cold}, {c(20), nil, ""}, {c(28), nil, ""}, {c(28.1), nil, Hot}, {nil, c(16), Cold}, {c(24), c(16), ""}, {nil, c(22), ""}} {
		if got := Band(of.resin, of.room); got != of.want {
			t.Errorf("resin %v, room %v: %q, want %q", of.resin, of.room, got, of.want)
		}
	}
}
