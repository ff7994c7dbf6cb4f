// Lanterns on the shelf of the store. View 1 by day; view 2 at dusk with the middle one lit. Centimetres.
#version 3.7;
#include "common.inc"
global_settings { assumed_gamma 1.0 max_trace_level 6 adc_bailout 0.04 }
#include "lanterns.inc"

#if (View = 1) Lens(<4,17,-98>, <-1,10.5,0>, 39, <0,11,-6>, 2.0, 1.5) #end
#if (View = 2) Lens(<-3,14,-96>, <-2.5,12.5,0>, 32, <-2,12,-5>, 2.0, 0.6667) #end

#if (View = 1)
  light_source { <140,85,-70> rgb <15,15.8,17>*0.9 area_light <0,80,0>, <60,0,60>, 3, 3 jitter fade_distance 45 fade_power 2 }
  RoomLight(<0.30,0.29,0.27>, 80)
#else
  light_source { <-150,95,-60> rgb <2.0,2.7,4.0> area_light <0,80,0>, <60,0,60>, 3, 3 jitter fade_distance 45 fade_power 2 }
  RoomLight(<0.035,0.045,0.065>, 80)
  light_source { <-2,11.3,-1> rgb <1.0,0.50,0.16>*7 fade_distance 6 fade_power 2 area_light <1.2,0,0>, <0,2.4,0>, 2, 3 jitter }
#end
box { <-400,-100,-330>, <400,300,-320> pigment { rgb <0.28,0.26,0.23> } no_image }
#declare Card = box { <-0.5,-0.5,0>, <0.5,0.5,0.1> no_shadow no_radiosity no_image pigment { rgb 1 } finish { emission 8*(View=1)+1.2 diffuse 0 } }
#for (I, 0, 1) #for (J, 0, 2) object { Card scale <30,26,1> rotate y*66 translate <134,50+J*29,-84+I*34> } #end #end

object { Shelf Weathered(<0.36,0.29,0.22>, <0.16,0.12,0.09>, 22, 3) }
object { Under Wood(<0.30,0.22,0.15>, <0.14,0.09,0.06>, 9, 5) translate <0,-7.6,-10.4> }
#declare Planks = array[4] { Plank0, Plank1, Plank2, Plank3 }
#for (K, 0, 11)
  object { Planks[mod(K,4)] Painted(<0.17,0.26,0.29>, 15, K+1, 0.42) rotate x*90 rotate z*(90+180*mod(K,2)) translate <(K-5.6)*15.9,34,16.5> }
#end

// Tinned iron, and enamel paint that rust has begun to lift.
#macro Tinned(Worn)
  texture {
    pigment_pattern { average pigment_map { [1.3 granite scale 7 color_map {[0 rgb 0][1 rgb 1]}] [1 bozo scale 2.5 color_map {[0 rgb 0][1 rgb 1]}] } }
    texture_map {
      [0.20+Worn pigment { granite scale 0.8 color_map { [0 rgb <0.07,0.03,0.015>] [1 rgb <0.20,0.09,0.04>] } } normal { granite 0.5 scale 0.5 }]
      [0.30+Worn pigment { granite scale 6 color_map { [0.2 rgb <0.22,0.22,0.21>] [0.8 rgb <0.36,0.36,0.35>] } } normal { bumps 0.12 scale 1.6 } finish { diffuse 0.55 specular 0.5 roughness 0.03 metallic reflection { 0.08 metallic } }]
    }
  }
#end
#macro Lacquer(Tint, Worn)
  texture {
    pigment_pattern { average pigment_map { [1.3 granite scale 7 translate 4 color_map {[0 rgb 0][1 rgb 1]}] [1 bozo scale 2.2 translate 3 color_map {[0 rgb 0][1 rgb 1]}] } }
    texture_map {
      [0.21+Worn pigment { granite scale 0.8 color_map { [0 rgb <0.07,0.03,0.015>] [1 rgb <0.20,0.085,0.035>] } } normal { granite 0.5 scale 0.5 }]
      [0.235+Worn pigment { granite scale 8 color_map { [0.2 rgb Tint*0.8] [0.8 rgb Tint] } } normal { bumps 0.07 scale 1.8 } finish { diffuse 0.75 specular 0.35 roughness 0.012 reflection { 0.0, 0.5 fresnel on } conserve_energy }]
    }
  }
#end
#macro Lantern(Metal, Glass, Wick, Flame, Lit, X, Z, Turn)
  union {
    object { Metal }
    object { Wick Tinned(0.1) }
    object { Glass texture { pigment { bozo scale 4 turbulence 0.6 color_map { [0 rgbf <0.92,0.93,0.91,0.95>] [0.6 rgbf <0.92,0.93,0.91,0.95>] [1 rgbf <0.62,0.58,0.5,0.72>] } } finish { diffuse 0.12 specular 0.5 roughness 0.002 reflection { 0.01, 1 fresnel on } conserve_energy } } interior { ior 1.5 } }
    #if (Lit) object { Flame no_shadow pigment { gradient y scale 4 translate 9.6 color_map { [0 rgb <0.3,0.25,0.5>] [0.2 rgb <1,0.62,0.22>] [0.7 rgb <1,0.72,0.30>] [1 rgb <1,0.5,0.15>] } } finish { emission 9 diffuse 0 } } #end
    rotate y*Turn translate <X,0,Z>
  }
#end
Lantern(object { Metal0 Lacquer(<0.36,0.035,0.025>, 0.02) interior { ior 1.5 } }, Glass0, Wick0, Flame0, 0, -25, 1, 18)
Lantern(object { Metal1 Tinned(0.05) }, Glass1, Wick1, Flame1, (View=2), -2, -1, -14)
Lantern(object { Metal2 Lacquer(<0.03,0.12,0.065>, 0.05) interior { ior 1.5 } }, Glass2, Wick2, Flame2, 0, 21, 1.5, 31)
object { Tin Lacquer(<0.50,0.36,0.10>, 0.09) interior { ior 1.5 } rotate y*70 translate <38,0,4> }
object { Coil pigment { granite scale 1.2 color_map { [0.2 rgb <0.24,0.18,0.11>] [0.8 rgb <0.52,0.43,0.29>] } } normal { granite 0.6 scale 0.5 } translate <-45,0,2> }
