package resin

import "testing"

func TestADensityThatNoResinHasIsRefused(t *testing.T) {
	for density, fine := range map[float64]bool{0.69: false, 0.7: true, 1.1: true, 2.5: true, 2.51: false, 0: false} {
		err := CheckDensity("mass_g", density)
		if (err == nil) != fine {
			t.Errorf("%v g/ml: %v", density, err)
		}
	}
	if err := CheckDensity("mass_g", 11); err == nil || err.Error() != "mass_g: gives 11 g/ml, which no resin has; check mass and volume" {
		t.Errorf("%v", err)
	}
}
