// A rowing boat on still water, morning mist. Metres.
#version 3.7;
#include "common.inc"
#include "weather.inc"
global_settings { assumed_gamma 1.0 max_trace_level 5 }
#include "boat.inc"

#if (View = 1) Lens(<0.1,1.7,-8.2>, <0.42,0.62,0>, 44, <0.4,0.3,-0.5>, 0.06, 1.5) #end
#if (View = 2) Lens(<4.6,1.35,-2.9>, <1.35,0.42,0>, 36, <1.9,0.5,0>, 0.05, 0.6667) #end

Clouded(<0.50,0.45,0.47>, <0.92,0.76,0.58>, <0.70,0.68,0.72>, <1.02,0.83,0.60>, 0.62, 1)
light_source { <-600,160,500> rgb <1.5,1.12,0.72> area_light <60,0,0>, <0,60,0>, 2, 2 jitter parallel point_at 0 }
// Light of the whole sky, from above, and the bright side.
light_source { <-40,200,-120> rgb <0.50,0.50,0.56>*0.9 area_light <160,0,0>, <0,0,160>, 3, 3 jitter parallel point_at 0 }
light_source { <20,40,-200> rgb <0.22,0.20,0.20> shadowless parallel point_at 0 }
fog { fog_type 2 distance 95 rgb <0.98,0.82,0.63> fog_offset 0.0 fog_alt 1.3 turbulence <0.6,0.1,0.6> turb_depth 0.4 up y }

Water(<0.016,0.020,0.022>, 0.75)
Shore(900, 70, 26, <0.66,0.58,0.56>, 1.7)
Shore(620, 40, 26, <0.57,0.51,0.49>, 4.2)
Shore(300, 7.5, 9, <0.43,0.385,0.35>, 2.6)

#declare Wet = function(y) { min(1, max(0, 1-(y-0.03)/0.05)) }
#declare Dry = Painted(<0.62,0.58,0.50>, 0.28, 3, 0.28)
#declare Slime = texture { pigment { granite scale 0.1 color_map { [0.2 rgb <0.03,0.035,0.02>] [0.8 rgb <0.11,0.11,0.075>] } } finish { diffuse 0.7 specular 0.3 roughness 0.02 } }
object { Paintwork texture { function { Wet(y + 0.015*sin(x*9)) } texture_map { [0.25 Dry] [0.75 Slime] } } }
object { Band Painted(<0.055,0.20,0.22>, 0.28, 7, 0.30) }
object { Lining Painted(<0.38,0.36,0.31>, 0.28, 9, 0.5) }
object { Transom Painted(<0.055,0.20,0.22>, 0.28, 11, 0.35) }
object { Woodwork Weathered(<0.36,0.24,0.15>, <0.16,0.10,0.065>, 0.12, 3) }
object { Ribs Weathered(<0.33,0.24,0.16>, <0.15,0.10,0.07>, 0.1, 6) }
object { Thwart0 Weathered(<0.40,0.30,0.21>, <0.2,0.13,0.09>, 0.2, 5) }
object { Thwart1 Weathered(<0.40,0.30,0.21>, <0.2,0.13,0.09>, 0.2, 8) }
object { Thwart2 Weathered(<0.40,0.30,0.21>, <0.2,0.13,0.09>, 0.2, 2) }
object { Oars Weathered(<0.46,0.36,0.25>, <0.24,0.17,0.11>, 0.1, 4) }
object { Warp pigment { granite scale 0.05 color_map { [0.2 rgb <0.20,0.16,0.11>] [0.8 rgb <0.50,0.42,0.30>] } } normal { granite 0.4 scale 0.02 } }
object { Pole
  pigment { pigment_pattern { granite scale <0.06,1.6,0.06> color_map {[0 rgb 0][1 rgb 1]} } color_map { [0.2 rgb <0.045,0.036,0.03>] [0.5 rgb <0.12,0.095,0.075>] [0.8 rgb <0.24,0.20,0.165>] } }
  normal { granite 0.8 scale <0.05,1.2,0.05> }
}
#declare R = seed(11);
#declare Stakes = array[4] { Stake1, Stake2, Stake3, Stake4 }
#for (I, 0, 8)
  object { Stakes[mod(I,4)] scale <1,0.75+0.4*rand(R),1> rotate <4*rand(R)-2,360*rand(R),6*rand(R)-3> translate <-9.5+I*2.1+0.7*rand(R),0,14+3.2*sin(I*0.7)+rand(R)> pigment { rgb <0.06,0.05,0.045> } }
#end
#declare Reeds = array[10] { Reed0, Reed1, Reed2, Reed3, Reed4, Reed5, Reed6, Reed7, Reed8, Reed9 }
#macro Clump(X, Z, Many, Wide)
  #for (I, 1, Many)
    #local A = 2*pi*rand(R); #local D = Wide*sqrt(rand(R));
    object { Reeds[int(rand(R)*9.99)] scale 0.7+0.5*rand(R) rotate y*360*rand(R) translate <X+D*cos(A)*1.6,0,Z+D*sin(A)*0.6>
      pigment { rgb <0.20,0.16,0.075>*(0.45+0.8*rand(R)) + <0,0.02,0>*rand(R) } finish { diffuse 0.6, 0.25 } }
  #end
#end
Clump(-2.2, -3.2, 46, 0.4) Clump(-1.75, -4.2, 12, 0.25)
Clump(-15, 26, 160, 3.2) Clump(15, 30, 190, 4)
