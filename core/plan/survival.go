package plan

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/form"
	"cinderpath/core/look"
	"cinderpath/core/measure"
	"cinderpath/core/path"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// Survival tells of all that is laid to be seen how much of it will be, at the end.
type Survival struct {
	Fates []Fate      `json:"fates"` // in the order in which they are laid
	Short string      `json:"short"` // what goes first where time is short
	Why   measure.Why `json:"why"`
}

// Fate is that of a layer, or of a colour of the scheme.
type Fate struct {
	Layer    string       `json:"layer"`
	Colour   int          `json:"colour,omitempty"` // of the scheme, the first is 1
	Name     string       `json:"name"`
	Hex      string       `json:"hex"`
	Minutes  unit.Minutes `json:"min"` // of all of its steps
	Seen     bool         `json:"seen"`
	Part     unit.Share   `json:"part"`
	Error    unit.Share   `json:"error"`
	Now      float64      `json:"now"`            // ΔE00 that it makes when it is laid
	End      float64      `json:"end"`            // and at the end
	Adds     float64      `json:"adds"`           // ΔE00 that it adds at the end, over the whole vehicle
	Worth    float64      `json:"worth"`          // of that, for ten minutes of work
	Times    float64      `json:"times"`          // as strong as it must be now; 0 where that is not asked
	Reaches  bool         `json:"reaches"`        // with that it does
	Words    string       `json:"words"`          // what becomes of it
	By       string       `json:"by,omitempty"`   // layer that takes most of it from sight
	Zones    []ZoneFate   `json:"zones"`          // the least seen first
	Drop     []string     `json:"drop,omitempty"` // zones on which it is wasted
	Saves    unit.Minutes `json:"savesMin,omitempty"`
	ofLayer  strata.Layer
	wasted   []int   // zones by number
	waste    float64 // part of what was laid that lies there
	ply      int
	survives []look.Survives
}

// ZoneFate is what becomes of it on one zone.
type ZoneFate struct {
	Zone   string     `json:"zone"`
	Where  string     `json:"where"`
	AreaCM float64    `json:"areaCm2"` // on which it was seen
	Part   unit.Share `json:"part"`
	Error  unit.Share `json:"error"`
	End    float64    `json:"end"`
}

// Of what is less seen than this, and makes less of a difference, nothing is left (W4).
const (
	wastedPart = 0.1
	wastedEnd  = 2.0
)

// survivalWhy says how it is reckoned.
var survivalWhy = measure.Because(
	"mean of min(1, ΔE00 that it makes at the end / ΔE00 that it made at first), weighted by area", []string{
		fmt.Sprintf("up to %d texels of each zone; where it made less than ΔE00 0.5 at first it does not count", sampled),
		"where other layers land stays; what lies in it or goes by it goes with it",
		"all colours through the skin at the end",
	})

// SurvivalOf answers for what a plan's last step names.
func (d *Deriver) SurvivalOf(p Plan) (Survival, error) {
	all, _, err := d.named(p.Last())
	if err != nil {
		return Survival{}, err
	}
	minutes := minutesOf(p.Steps)
	return stage(d, "survival", []any{all.keys[len(all.keys)-1], minutes}, func() (Survival, error) {
		h, err := d.heapOf(all.build, all.coats, nil)
		if err != nil {
			return Survival{}, err
		}
		fates, _, err := h.fates(minutes)
		if err != nil {
			return Survival{}, err
		}
		return Survival{Fates: h.stronger(fates), Short: short(fates), Why: survivalWhy}, nil
	})
}

// short says what is worth the least for the time it takes, of what the eye would not miss first.
func short(fates []Fate) string {
	least := -1
	for i, f := range fates {
		if f.ofLayer.Kind != strata.Colour && f.Minutes > 0 && (least < 0 || f.Worth < fates[least].Worth) {
			least = i
		}
	}
	if least < 0 {
		return ""
	}
	f := fates[least]
	return fmt.Sprintf("Where time is short, %s goes first: %.0f min for ΔE00 %.2f over the whole vehicle",
		strings.ToLower(f.Name), float64(f.Minutes), f.Adds)
}

// minutesOf sums the work on each layer and colour.
func minutesOf(steps []Step) map[string]unit.Minutes {
	out := map[string]unit.Minutes{}
	for _, s := range steps {
		if s.Layer != "" && s.Status != path.IsSkipped {
			out[fmt.Sprint(s.Layer, " ", s.Colour)] += s.Minutes
		}
	}
	return out
}

// fates tells what becomes of each coat that is meant to be seen.
func (h heap) fates(minutes map[string]unit.Minutes) ([]Fate, *look.Pile, error) {
	pile, coats, err := h.pile()
	if err != nil {
		return nil, nil, err
	}
	zones, whole := pile.Survival()
	out := []Fate{}
	for ply := range pile.Plies {
		c := h.coats[coats[ply]]
		if !pile.Plies[ply].Meant || c.strong == scheme.Mist {
			continue
		}
		f := Fate{
			Layer: c.layer.ID, Colour: c.colour, Name: c.layer.Name, Hex: pile.Plies[ply].Paint.Swatch.Hex(),
			Zones: []ZoneFate{}, ofLayer: c.layer, ply: ply, survives: zones[ply],
		}
		if c.layer.IsScheme() {
			f.Name += ": " + h.build.Scheme.Colour(c.colour).Name
		}
		f.Minutes = minutes[fmt.Sprint(f.Layer, " ", f.Colour)]
		f.fill(whole[ply])
		f.spread(h, pile)
		out = append(out, f)
	}
	some := h
	if some.most == 0 || some.most > enough {
		some.most = enough
	}
	few, _, err := some.pile()
	if err != nil {
		return nil, nil, err
	}
	form.Each(len(out), func(i int) { out[i].say(h, few, coats) })
	return out, pile, nil
}

func (f *Fate) fill(s look.Survives) {
	f.Seen, f.Part, f.Error = s.Seen, unit.Share(s.Part), unit.Share(s.Error)
	f.Now, f.End, f.Adds = s.First, s.Difference, s.Adds
	if f.Minutes > 0 {
		f.Worth = 10 * f.Adds / float64(f.Minutes)
	}
}

// spread tells of each zone.
func (f *Fate) spread(h heap, pile *look.Pile) {
	all, wasted := 0.0, 0.0
	for z, s := range f.survives {
		if !s.Seen {
			continue
		}
		all += s.Area
		f.Zones = append(f.Zones, ZoneFate{
			Zone: pile.Zones[z], Where: zone.Words(pile.Zones[z]),
			AreaCM: s.Area / float64(h.build.Scale*h.build.Scale) / 100,
			Part:   unit.Share(s.Part), Error: unit.Share(s.Error), End: s.Difference,
		})
		if s.Part < wastedPart && s.Difference < wastedEnd {
			wasted += s.Area
			f.Drop, f.wasted = append(f.Drop, pile.Zones[z]), append(f.wasted, z)
		}
	}
	slices.SortStableFunc(f.Zones, func(a, b ZoneFate) int {
		return cmp.Or(cmp.Compare(a.Part, b.Part), cmp.Compare(b.AreaCM, a.AreaCM))
	})
	if all > 0 {
		f.waste = wasted / all
		f.Saves = (f.Minutes * unit.Minutes(f.waste)).Whole()
	}
}

// say puts it in words.
func (f *Fate) say(h heap, pile *look.Pile, coats []int) {
	name := strings.ToLower(f.Name)
	zones := f.wasted
	if len(zones) == 0 {
		for z, s := range f.survives {
			if s.Seen {
				zones = append(zones, z)
			}
		}
	}
	by := ""
	if f.Seen && f.Part < 0.9 && (len(f.Drop) > 0 || !h.brief) {
		if k := pile.Coverer(f.ply, zones); k >= 0 {
			c := h.coats[coats[k]]
			f.By, by = c.layer.ID, strings.ToLower(c.layer.Name)
		}
	}
	switch {
	case !f.Seen:
		f.Words = "Never visible: it changes nothing that an eye could see, not even when it is laid"
	case f.Part >= 0.9:
		f.Words = fmt.Sprintf("Of %s %.0f %% will still be seen", name, f.Part.Of(100))
	default:
		f.Words = fmt.Sprintf("Of %s %.0f %% will still be seen", name, f.Part.Of(100))
		if by != "" {
			f.Words += "; " + by + " covers most of what is lost"
		}
	}
	if len(f.Drop) > 0 {
		on := zone.Gathered(f.Drop, pile.Zones)
		f.Words += fmt.Sprintf("; on %s next to nothing is left of it", zone.Said(on))
		if f.Saves > 0 {
			f.Words += fmt.Sprintf(": leaving it out there saves %.0f min", float64(f.Saves))
		}
	}
}

// enough places of a zone to say how much stronger a film must be.
const enough = 100

// stronger tells of films how much stronger they must be now.
func (h heap) stronger(fates []Fate) []Fate {
	h.most = enough
	pile, _, err := h.pile()
	if err != nil {
		return fates
	}
	form.Each(len(fates), func(i int) {
		f := &fates[i]
		if f.ofLayer.Kind == strata.Colour || pile.Plies[f.ply].Cover || !f.Seen || f.Part < wastedPart || f.Part >= 0.95 {
			return
		}
		f.Times, f.Reaches = pile.Overshoot(f.ply)
		if f.Times > 1.05 {
			said := fmt.Sprintf("; made %.1f × stronger now it ends as strong as it looks when it is laid", f.Times)
			if !f.Reaches {
				said = fmt.Sprintf("; even %.0f × stronger it would end weaker than it looks when it is laid", f.Times)
			}
			f.Words += said
		}
	})
	return fates
}
