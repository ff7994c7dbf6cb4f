// Coloured bottles on the sill against the light. View 1 noon, view 2 near, late sun. Centimetres.
#version 3.7;
#include "common.inc"
global_settings { assumed_gamma 1.0 max_trace_level 10 adc_bailout 0.05 }
#include "bottles.inc"

#if (View = 1) Lens(<3,16,-92>, <0.5,12.6,0>, 36, <0,10,-2>, 2.2, 1.5) #end
#if (View = 2) Lens(<-5,12,-66>, <-6.8,9.4,0>, 33, <-7,8,-2>, 1.9, 1.5) #end

// Outside: sky, the far bank, the marsh; the lens makes nothing of them but colour.
#if (View = 1)
  #declare SkyUp = <1.55,1.75,2.0>; #declare SkyLow = <1.9,1.85,1.75>; #declare Bank = <0.17,0.22,0.20>; #declare Marsh = <0.40,0.38,0.20>; #declare Pool = <0.95,0.98,1.0>;
#else
  #declare SkyUp = <0.95,0.95,1.15>; #declare SkyLow = <2.3,1.45,0.75>; #declare Bank = <0.12,0.11,0.12>; #declare Marsh = <0.34,0.22,0.10>; #declare Pool = <1.3,0.85,0.5>;
#end
plane { z, 600
  pigment { gradient y scale 520 translate -200 turbulence 0.015
    color_map { [0.0 rgb Marsh*0.6] [0.22 rgb Marsh] [0.29 rgb Marsh*0.8] [0.30 rgb Pool*0.6] [0.345 rgb Pool] [0.355 rgb Bank*0.8] [0.40 rgb Bank] [0.425 rgb Bank*1.4] [0.435 rgb SkyLow] [0.62 rgb (SkyLow+SkyUp)/2] [1 rgb SkyUp] } }
  finish { emission 1 diffuse 0 } no_shadow }
#if (View = 1)
  light_source { <60,260,320> rgb <1.5,1.5,1.45> area_light <120,0,0>, <0,60,60>, 2, 2 jitter }
#else
  light_source { <260,120,330> rgb <2.6,1.7,0.9> area_light <14,0,0>, <0,14,0>, 2, 2 jitter }
  light_source { <0,260,320> rgb <0.5,0.5,0.6> area_light <120,0,0>, <0,60,60>, 3, 3 jitter }
#end
// The room gives a little back.
light_source { <-90,70,-160> rgb <0.20,0.18,0.16> area_light <80,0,0>, <0,60,0>, 2, 2 jitter }
box { <-400,-100,-330>, <400,300,-320> pigment { rgb <0.10,0.085,0.07> } finish { emission 0.5 } no_image no_shadow }

object { Sill Painted(<0.60,0.58,0.52>, 20, 4, 0.32) }
box { <-200,-90,4>, <200,-3.9,17> pigment { granite scale 20 color_map { [0.2 rgb <0.34,0.33,0.30>] [0.8 rgb <0.42,0.41,0.37>] } } normal { granite 0.2 scale 6 } }
object { BarA Painted(<0.52,0.51,0.47>, 5, 3, 0.3) rotate z*90 translate <-17.5,50,16> }
object { BarB Painted(<0.52,0.51,0.47>, 5, 5, 0.3) rotate z*90 translate <22,50,16> }
object { BarA Painted(<0.52,0.51,0.47>, 5, 7, 0.3) translate <0,34,16> }
object { BarC Painted(<0.50,0.49,0.45>, 6, 9, 0.35) rotate x*90 translate <0,2.5,15> }
// Old panes.
box { <-70,0,15.8>, <70,80,16> pigment { rgbf <0.96,0.98,0.97,0.97> } normal { bumps 0.02 scale 9 } finish { diffuse 0.02 reflection { 0.0, 0.5 fresnel on } conserve_energy } interior { ior 1.02 } no_shadow }

#macro Glass(M, Tint, Strength, X, Z, Turn)
  object { M
    texture { pigment { rgbf <0.98,0.98,0.98,1> } normal { bumps 0.03 scale 1.6 } finish { diffuse 0 specular 0.6 roughness 0.003 reflection { 0, 1 fresnel on } conserve_energy } }
    interior { ior 1.51 fade_color Tint fade_distance Strength fade_power 1001 }
    rotate y*Turn translate <X,0.02,Z> }
#end
Glass(Bottle0, <0.05,0.12,0.62>, 0.55, -23, 1, 10)
Glass(Bottle1, <0.62,0.28,0.04>, 0.62, -10.5, -2.5, 60)
Glass(Bottle2, <0.14,0.52,0.24>, 0.75, 1.2, 1.5, 30)
Glass(Bottle3, <0.50,0.80,0.76>, 1.6, 13.4, -1, 80)
Glass(Bottle4, <0.48,0.10,0.22>, 0.8, 4.8, -6.5, 20)
Glass(Bottle4, <0.80,0.84,0.80>, 2.5, 25.5, -4, 50)
object { Twig pigment { rgb <0.10,0.07,0.045> } normal { granite 0.5 scale 0.4 } translate <13.4,0,-1> }
#declare R = seed(4);
#for (I, 0, 11)
  object { Leaf translate <-3.6,-24.6,0> scale 0.45+0.3*rand(R) rotate <360*rand(R),90*rand(R)-45,60-I*9> translate <14.6+I*0.95,20+I*1.75-I*I*0.045,-1>
    pigment { rgb <0.42,0.30,0.07>*(0.5+0.6*rand(R)) } finish { diffuse 0.5, 0.5 } }
#end
