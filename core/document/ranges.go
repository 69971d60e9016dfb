package document

import (
	"errors"
	"fmt"
	"strings"

	"cinderpath/core/base"
	"cinderpath/core/gear"
	"cinderpath/core/length"
	"cinderpath/core/marking"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/relief"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
)

// Ranges is what every quantity of a build, a workshop and a log can sensibly be: the one
// table that edits, import and the calculators hold to, and that the contract states.
// Beyond it lies a slip of the unit, or work without end.
var Ranges = unit.Table{Ranges: ranges(), List: 5_000, Text: longText}

// Kinds of quantity that come again.
var (
	place       = unit.Range{Least: -farthest, Most: farthest, Unit: "real mm"}
	extent      = unit.Range{Least: 0, Most: farthest, Unit: "real mm"}
	angle       = unit.Range{Least: -360, Most: 360, Unit: "degrees"}
	onModel     = unit.Range{Least: 0, Most: 1_000_000, Unit: "mm on the model"}
	pixel       = unit.Range{Least: -100_000, Most: 100_000, Unit: "pixels"}
	minutes     = unit.Range{Least: 0, Most: 525_600, Unit: "min"}
	celsius     = unit.Range{Least: -50, Most: 70, Unit: "°C"}
	share       = unit.Range{Least: 0, Most: 1}
	counting    = unit.Range{Least: 0, Most: 10_000}
	scales      = unit.Range{Least: 0, Most: float64(length.CoarsestScale)}
	millilitres = unit.Range{Least: 0, Most: paint.MostVolume, Unit: "ml"}
	realSize    = unit.Range{Least: 0, Most: length.Longest, Unit: "real mm"}
)

func ranges() map[string]unit.Range {
	all := map[string]unit.Range{
		"document.Build.scale":         {Least: float64(length.FinestScale), Most: float64(length.CoarsestScale)},
		"document.Build.priority":      {Least: -mostPriority, Most: mostPriority},
		"document.Build.ground":        place,
		"document.Build.ground[]":      {Most: 100},
		"document.OwnStep.minutes":     minutes,
		"document.OwnStep.waitMin":     minutes,
		"document.OwnStep.count":       {Least: 0, Most: mostPieces},
		"document.Cut.into":            {Least: 0, Most: mostCuts},
		"document.Entry.minutesBefore": {Least: 0, Most: 5_256_000, Unit: "min"},
		"document.Entry.plannedMin":    minutes,
		"document.Coats.left":          counting,
		"document.Coats.right":         counting,

		"measure.Size.mm":                      realSize,
		"measure.Reading.mm":                   onModel,
		"measure.Reading.plusMinusMm":          onModel,
		"measure.Decision.factor":              {Least: 0, Most: 1000},
		"measure.Dimension.realPlusMinusMm":    realSize,
		"measure.Span.from":                    {Least: -1_000_000, Most: 1_000_000, Unit: "mm"},
		"measure.Span.to":                      {Least: -1_000_000, Most: 1_000_000, Unit: "mm"},
		"measure.Cable.points":                 {Least: -1_000_000, Most: 1_000_000, Unit: "mm"},
		"measure.Cable.startMm":                onModel,
		"measure.Cable.endMm":                  onModel,
		"measure.Cable.leafletMm":              onModel,
		"measure.Photo.width":                  {Least: 0, Most: 100_000, Unit: "pixels"},
		"measure.Photo.height":                 {Least: 0, Most: 100_000, Unit: "pixels"},
		"measure.PhotoMarks.a":                 pixel,
		"measure.PhotoMarks.b":                 pixel,
		"measure.PhotoMarks.corners":           pixel,
		"measure.PhotoMarks.realPlusMinusMm":   realSize,
		"measure.PhotoMarks.acrossPlusMinusMm": realSize,
		"measure.PhotoMarks.downPlusMinusMm":   realSize,
		"measure.PhotoLength.a":                pixel,
		"measure.PhotoLength.b":                pixel,
		"measure.Part.drawnAt":                 scales,
		"measure.Part.wanted":                  scales,
		"measure.Item.sizeMm":                  {Least: 0, Most: 10_000, Unit: "mm"},
		"measure.Item.secondMm":                {Least: 0, Most: 10_000, Unit: "mm"},
		"measure.Shelf.bend":                   {Least: 0, Most: 1000},
		"measure.Printer.bed":                  {Least: 1, Most: 5000, Unit: "mm"},
		"measure.Printer.feature":              {Least: 0.001, Most: 50, Unit: "mm"},

		"paint.Jar.number":         {Least: 0, Most: 9999},
		"paint.Jar.hiding":         share,
		"paint.Jar.solids":         share,
		"paint.Jar.volumeMl":       millilitres,
		"paint.Jar.leftMl":         millilitres,
		"paint.Jar.arrivesInDays":  {Least: 0, Most: 365, Unit: "days"},
		"paint.Used.ml":            millilitres,
		"paint.Jar.price":          {Least: 0, Most: 1_000_000},
		"paint.Temper.thinner":     {Least: 0, Most: 40, Unit: "parts"},
		"paint.Temper.brush":       {Least: 0, Most: 40, Unit: "parts"},
		"paint.Temper.pressure":    {Least: 0, Most: 4, Unit: "bar"},
		"paint.Temper.coats":       {Least: 0, Most: 20},
		"paint.Trial.apart":        {Least: 0, Most: 200, Unit: "ΔE00"},
		"paint.Trial.difference":   {Least: 0, Most: 200, Unit: "ΔE00"},
		"paint.Part.drops":         counting,
		"paint.Mixture.leftMl":     millilitres,
		"paint.Unread.line":        {Least: 0, Most: 1_000_000},
		"paint.Shelf.deliveryDays": {Least: 0, Most: 365, Unit: "days"},

		"base.Base.margin":  {Least: 0, Most: base.MostMargin, Unit: "mm on the model"},
		"base.Base.long":    {Least: 0, Most: base.MostBoard, Unit: "mm"},
		"base.Base.wide":    {Least: 0, Most: base.MostBoard, Unit: "mm"},
		"base.Base.turn":    angle,
		"base.Base.board":   {Least: 1, Most: base.MostThick, Unit: "mm"},
		"base.Base.depth":   {Least: 0, Most: base.MostDepth, Unit: "mm on the model"},
		"base.Base.sink":    {Least: 0, Most: base.MostSink, Unit: "real mm"},
		"base.Base.screw":   {Least: 0, Most: base.MostScrew, Unit: "mm"},
		"base.Base.screws":  {Least: 0, Most: 2},
		"base.Base.figures": {Least: 0, Most: base.MostFigure},
		"base.Grain.mm":     {Least: 0.01, Most: base.MostGrain, Unit: "mm on the model"},

		"kit.Decal.sizeMm":       {Least: 0, Most: 10_000, Unit: "real mm"},
		"marking.Drawing.edgeMm": {Least: 0, Most: marking.MostEdge, Unit: "real mm"},
		"marking.Place.at":       place,
		"marking.Place.turnDeg":  angle,

		"relief.Detail.at":      place,
		"relief.Detail.to":      place,
		"relief.Detail.pitchMm": {Least: 0, Most: relief.MostPitch, Unit: "real mm"},
		"relief.Detail.sizeMm":  {Least: 0, Most: relief.MostSize, Unit: "real mm"},
		"relief.Detail.insetMm": {Least: 0, Most: relief.MostPitch, Unit: "real mm"},

		"form.Hull.profile":   place,
		"form.Hull.width":     extent,
		"form.Hull.inSide":    place,
		"form.Hull.inNose":    place,
		"form.Turret.x":       place,
		"form.Turret.y":       place,
		"form.Turret.ring":    place,
		"form.Turret.plan":    place,
		"form.Turret.height":  extent,
		"form.Turret.inFront": place,
		"form.Turret.inRear":  place,
		"form.Turret.inSide":  place,
		"form.Gun.x":          place,
		"form.Gun.y":          place,
		"form.Gun.z":          place,
		"form.Gun.barrel":     place,
		"form.Gun.elevation":  angle,
		"form.Mantlet.width":  extent,
		"form.Mantlet.height": extent,
		"form.Mantlet.depth":  extent,
		"form.Fender.line":    place,
		"form.Fender.inner":   extent,
		"form.Fender.outer":   extent,
		"form.Fender.thick":   extent,
		"form.Skirt.rear":     place,
		"form.Skirt.front":    place,
		"form.Skirt.base":     place,
		"form.Skirt.top":      place,
		"form.Skirt.out":      extent,
		"form.Skirt.thick":    extent,
		"form.Skirt.sections": {Least: 0, Most: 40},
		"form.Fitting.at":     place,
		"form.Fitting.size":   place,
		"form.Fitting.turn":   angle,
		"form.Fitting.count":  {Least: 0, Most: 200},
		"form.Damage.section": {Least: 0, Most: 40},
		"form.Damage.by":      place,
		"form.Shell.points":   place,
		"form.Shell.points[]": {Most: 20_000},
		"form.Shell.faces":    {Least: 0, Most: 20_000},
		"form.Shell.faces[]":  {Most: 20_000},
		"form.Seed.at":        place,

		"scheme.Colour.share":    share,
		"scheme.Colour.width":    {Least: 0, Most: 5000, Unit: "real mm"},
		"scheme.Colour.feather":  {Least: 0, Most: 5000, Unit: "real mm"},
		"scheme.Colour.bend":     share,
		"scheme.Colour.angle":    {Least: -90, Most: 90, Unit: "degrees"},
		"scheme.Colour.frame":    {Least: 0, Most: 5000, Unit: "real mm"},
		"scheme.Colour.seed":     {Least: 0, Most: 1 << 53},
		"scheme.Colour.from":     {Least: 0, Most: scheme.MostColours},
		"scheme.Anchor.at":       place,
		"scheme.Trace.origin":    place,
		"scheme.Trace.pixel":     {Least: 0, Most: 10_000, Unit: "real mm"},
		"scheme.Trace.wide":      {Least: 0, Most: 400_000},
		"scheme.Trace.high":      {Least: 0, Most: 400_000},
		"scheme.Anchor.colour":   {Least: 0, Most: scheme.MostColours - 1},
		"scheme.Pattern.width":   {Least: 0, Most: 5000, Unit: "real mm"},
		"scheme.Pattern.feather": {Least: 0, Most: 5000, Unit: "real mm"},
		"scheme.Pattern.seed":    {Least: 0, Most: 1 << 53},
		"strata.Layer.coats":     {Least: 1, Most: 20},
		"strata.Layer.depthMm":   {Least: 0, Most: 20, Unit: "mm on the model"},
		"strata.Layer.waitMin":   minutes,
		"strata.Layer.sizeMm":    {Least: 1, Most: strata.MostSize, Unit: "real mm"},
		"strata.Touch.at":        place,
		"strata.Touch.to":        place,
		"strata.Touch.radiusMm":  {Least: 1, Most: 5000, Unit: "real mm"},
		"strata.Layer.amount":    {Least: 0, Most: strata.MostFilm, Unit: "µm, or a share of 1"},

		"kit.Feature.mm": realSize,
		"kit.Part.count": counting, "kit.Part.lateTo": {Most: 8},

		"path.Window.day":            {Least: 0, Most: 6},
		"path.Calendar.temperatureC": celsius,
		"path.Calendar.humidity":     share,
		"path.Air.temperatureC":      celsius,
		"path.Air.humidity":          share,
		"path.Place.leastC":          celsius,
		"path.Place.mostC":           celsius,
		"path.Airbrush.nozzleMm":     {Least: 0, Most: 5, Unit: "mm"},
		"path.Airbrush.changes":      {Least: 0, Most: 100},
		"path.Airbrush.flushMin":     {Least: 0, Most: 240, Unit: "min"},
		"path.Airbrush.stripMin":     {Least: 0, Most: 240, Unit: "min"},
		"path.Subject.colour":        counting,
		"path.Subject.section":       counting,
		"path.Subject.round":         counting,
		"gear.Arm.x":                 place,
		"gear.Arm.z":                 place,
		"gear.Arm.up":                {Least: 0, Most: 90, Unit: "degrees"},
		"gear.Arm.down":              {Least: 0, Most: 90, Unit: "degrees"},
	}
	for name, r := range gear.Ranges {
		switch name {
		case "x", "z", "radius", "hub", "teeth":
			all["gear.Wheel."+name] = r
		case "pitch", "width":
			r.Least = 0 // where there is no track
			fallthrough
		default:
			all["gear.Link."+name] = r
		}
	}
	return all
}

// Sensible refuses the first quantity of a document, or of a part of one, that lies outside
// its range.
func Sensible(value any) error {
	err := Ranges.Check(value)
	var out *unit.RangeError
	if !errors.As(err, &out) {
		return err
	}
	unit := strings.TrimRight(" "+out.Range.Unit, " ")
	return measure.Refuse(
		out.Field,
		fmt.Sprintf("%g%s is beyond what it can be", out.Value, unit),
		fmt.Sprintf("give %g to %g%s", out.Range.Least, out.Range.Most, unit),
	)
}
